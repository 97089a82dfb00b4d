import { asFile } from "../ui/drawing";
import { draw, type Scene } from "./draw";
import { LANES_TOP } from "./rows";
import { SvgPen } from "./svg-pen";

/** The strip as it is shown, as the text of an SVG file: lanes below, what is written on them
 * above. Pictures of the film stay out. */
export function stripAsSvg(scene: Scene, over: SVGSVGElement): string {
  const pen = new SvgPen();
  draw(pen, scene);
  const file = new DOMParser().parseFromString(asFile(over), "image/svg+xml");
  const root = file.documentElement;
  for (const picture of root.querySelectorAll("image")) picture.remove();
  const lanes = new DOMParser().parseFromString(
    `<svg xmlns="http://www.w3.org/2000/svg"><rect width="100%" height="100%" fill="${scene.inks.chalk}"/><g transform="translate(0 ${LANES_TOP})">${pen.parts.join("")}</g></svg>`,
    "image/svg+xml",
  );
  root.prepend(...lanes.documentElement.childNodes);
  return new XMLSerializer().serializeToString(root);
}
