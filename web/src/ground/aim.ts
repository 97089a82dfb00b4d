import type { Schemas } from "../api/client";
import type { Mark } from "../live/clip-store";
import type { Pixel } from "../picture/look";

export type { Pixel };
export type Calibration = Schemas["Calibration"];
export type Ground = Schemas["Ground"];

/** What the next click in the picture is. */
export type Aim =
  | { kind: "hoof"; mark: string }
  | { kind: "point"; name: string; x_m: number; y_m: number }
  | { kind: "bar"; at_m: number }
  | { kind: "withers"; which: 0 | 1 }
  | { kind: "still"; point: string };

/** The points of a still in the order in which they are asked for, with what to click. */
export const STILL_POINTS: readonly [string, string][] = [
  ["poll", "poll"],
  ["forehead", "forehead, on the line of the face"],
  ["nose", "nose, on the line of the face"],
  ["withers", "withers, highest point"],
  ["croup", "croup, highest point"],
  ["LF", "left fore hoof on the ground"],
  ["RF", "right fore hoof on the ground"],
  ["LH", "left hind hoof on the ground"],
  ["RH", "right hind hoof on the ground"],
  ["ear", "rider’s ear"],
  ["shoulder", "rider’s shoulder"],
  ["hip", "rider’s hip"],
  ["heel", "rider’s heel"],
  ["elbow", "rider’s elbow"],
  ["hand", "rider’s hand"],
  ["bit", "bit"],
];

/** What to click, in a sentence. */
export function aimInWords(aim: Aim, marks: readonly Mark[], names: Record<string, string>) {
  switch (aim.kind) {
    case "hoof": {
      const mark = marks.find((m) => m.id === aim.mark);
      return mark ? `Click the ${names[mark.limb] ?? ""} hoof’s toe, where it stands.` : "";
    }
    case "point":
      return `Click ${aim.name} where it touches the ground.`;
    case "bar":
      return `Click the bar at ${aim.at_m} m, where it lies on the ground.`;
    case "withers":
      return aim.which === 0 ? "Click the ground under the withers." : "Click the withers.";
    case "still":
      return `Click the ${STILL_POINTS.find(([p]) => p === aim.point)?.[1] ?? aim.point}.`;
  }
}

/** The next footfall without a click, from a moment on; from the beginning when none follows. */
export function nextHoof(ground: Ground, marks: readonly Mark[], after_us: number): string | null {
  const open = new Set(marks.filter((m) => !m.hoof).map((m) => m.id));
  const left = ground.to_click.filter((t) => open.has(t.id));
  return (left.find((t) => t.at_us > after_us) ?? left[0])?.id ?? null;
}

/** A moment at which a footfall's hoof stands, µs. */
export function standing(mark: Mark): number {
  return mark.off_us ? (mark.on_us + mark.off_us) / 2 : mark.on_us + 60_000;
}

/** Where a hoof may be looked for: on the line through the two clicks nearest in time. */
export function foretold(marks: readonly Mark[], at_us: number): Pixel | null {
  const clicked = marks
    .filter((m) => m.hoof)
    .sort((a, b) => Math.abs(standing(a) - at_us) - Math.abs(standing(b) - at_us));
  const a = clicked[0];
  if (!a?.hoof) return null;
  const b = clicked.find((m) => Math.abs(standing(m) - standing(a)) > 250_000);
  if (!b?.hoof) return a.hoof;
  const share = (at_us - standing(a)) / (standing(b) - standing(a));
  if (Math.abs(share) > 2) return a.hoof;
  return {
    x_px: a.hoof.x_px + share * (b.hoof.x_px - a.hoof.x_px),
    y_px: a.hoof.y_px + share * (b.hoof.y_px - a.hoof.y_px),
  };
}
