import { type ReactNode, useRef } from "react";

import { saveFile } from "./save-file";

type Props = {
  name: string;
  className?: string;
  /** The button shows when the drawing is pointed at or reached by key. */
  quiet?: boolean;
  children: ReactNode;
};

/** A drawing that can be taken along as an SVG file, its inks written out. */
export function Drawing({ name, className = "", quiet = false, children }: Props) {
  const box = useRef<HTMLDivElement>(null);
  const save = () => {
    const svg = box.current?.querySelector("svg");
    if (svg) saveFile(`${name}.svg`, asFile(svg), "image/svg+xml");
  };
  return (
    <div ref={box} className={`group relative ${className}`}>
      {children}
      <button
        type="button"
        onClick={save}
        aria-label={`Save ${name} as SVG`}
        className={`text-clay absolute right-1 bottom-0 min-h-7 px-1 text-sm underline underline-offset-3 ${quiet ? "bg-sand opacity-0 group-hover:opacity-100 focus:opacity-100" : ""}`}
      >
        SVG
      </button>
    </div>
  );
}

/** The text of an SVG file that looks as it does on screen: variables of the page are put in. */
export function asFile(svg: SVGSVGElement): string {
  const copy = svg.cloneNode(true) as SVGSVGElement;
  const inks = getComputedStyle(document.documentElement);
  const box = svg.getBoundingClientRect();
  copy.setAttribute("xmlns", "http://www.w3.org/2000/svg");
  copy.setAttribute("width", String(Math.round(box.width)));
  copy.setAttribute("height", String(Math.round(box.height)));
  copy.removeAttribute("class");
  for (const element of [copy, ...copy.querySelectorAll("*")]) {
    for (const { name, value } of [...element.attributes]) {
      if (!value.includes("var(")) continue;
      const plain = value.replace(/var\((--[\w-]+)\)/g, (_, ink: string) =>
        inks.getPropertyValue(ink).trim(),
      );
      element.setAttribute(name, plain);
    }
  }
  return new XMLSerializer().serializeToString(copy);
}
