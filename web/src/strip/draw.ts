import { isHind, isLeft, type Limb, RINGS } from "../ui/limbs";
import type { Mark } from "../live/clip-store";
import { firstFrom } from "../live/marks";
import { isOpen, standing } from "../live/suggestions";
import type { Inks } from "./inks";
import type { Loudness } from "./loudness";
import { LANE_Y, SOUND, SOUND_Y } from "./rows";
import type { Window } from "./view";

export type Scene = {
  view: Window;
  width: number;
  marks: readonly Mark[];
  chosen: ReadonlySet<string>;
  selected: string | null;
  /** Footfalls foretold, and those of a second timing: drawn hollow and above the marks. */
  foretold: readonly Mark[];
  /** A stretch whose marks are hidden while it is timed again. */
  hidden: Window | null;
  loudness: Loudness | null;
  inks: Inks;
};

/** What of a canvas is drawn with. */
export type Pen = Pick<
  CanvasRenderingContext2D,
  | "fillStyle"
  | "strokeStyle"
  | "lineWidth"
  | "globalAlpha"
  | "setLineDash"
  | "clearRect"
  | "fillRect"
  | "strokeRect"
  | "beginPath"
  | "moveTo"
  | "lineTo"
  | "rect"
  | "arc"
> & { fill: () => void; stroke: () => void };

/** Longest stance, µs: marks from this long before the window may reach into it. */
const LONGEST = 20_000_000;
/** Below this many pixels between marks heads would be a smear: bars alone are drawn. */
const SPARSE = 2.2;

/** Draws stances, footfalls and sound. */
export function draw(ctx: Pen, scene: Scene): void {
  const { view, width, inks } = scene;
  const perUs = width / (view.to - view.from);
  const x = (us: number) => (us - view.from) * perUs;
  ctx.clearRect(0, 0, width, SOUND_Y + SOUND);
  ctx.fillStyle = inks.line;
  for (const y of LANE_Y) ctx.fillRect(0, y - 0.5, width, 1);
  loud(ctx, scene);

  const first = firstFrom(scene.marks, view.from - LONGEST);
  const last = firstFrom(scene.marks, view.to + 100_000);
  const { hidden } = scene;
  const within = scene.marks.slice(first, last);
  const seen = hidden
    ? within.filter((m) => m.on_us < hidden.from || m.on_us >= hidden.to)
    : within;
  if (width / Math.max(1, seen.length / 4) > SPARSE) {
    const open = seen.filter(isOpen);
    const counted = open.length > 0 ? seen.filter((m) => !isOpen(m)) : seen;
    outlines(ctx, open, x, inks);
    stances(ctx, counted, x, inks, 1);
    heads(ctx, open, x, inks, true);
    heads(ctx, counted, x, inks);
    dots(ctx, counted, x, inks);
  } else {
    crowd(ctx, seen, x, width, inks);
  }
  if (scene.chosen.size > 0)
    for (const m of seen)
      if (scene.chosen.has(m.id)) frame(ctx, m, x, inks, m.id === scene.selected);

  if (scene.foretold.length > 0) {
    stances(ctx, scene.foretold, x, inks, 0.45);
    heads(ctx, scene.foretold, x, inks, true);
  }
}

type At = (us: number) => number;

const laneOf = (limb: Limb) => LANE_Y[RINGS.indexOf(limb)] ?? 0;

/** Bars, one colour at a time. */
function stances(ctx: Pen, marks: readonly Mark[], x: At, inks: Inks, alpha: number): void {
  ctx.globalAlpha = alpha;
  for (const left of [true, false]) {
    ctx.fillStyle = left ? inks.coolPale : inks.warmPale;
    ctx.beginPath();
    for (const m of marks) {
      if (isLeft(m.limb) !== left || typeof m.off_us !== "number") continue;
      const from = x(m.on_us);
      ctx.rect(from, laneOf(m.limb) - 6.5, Math.max(1, x(m.off_us) - from), 13);
    }
    ctx.fill();
  }
  ctx.globalAlpha = 1;
}

/** Stances that are suggested: their outline alone. */
function outlines(ctx: Pen, marks: readonly Mark[], x: At, inks: Inks): void {
  ctx.lineWidth = 1;
  ctx.setLineDash([3, 2]);
  for (const left of [true, false]) {
    ctx.strokeStyle = left ? inks.cool : inks.warm;
    ctx.beginPath();
    for (const m of marks) {
      if (isLeft(m.limb) !== left || typeof m.off_us !== "number") continue;
      const from = x(m.on_us);
      ctx.rect(from, laneOf(m.limb) - 6, Math.max(1, x(m.off_us) - from), 12);
    }
    ctx.stroke();
  }
  ctx.setLineDash([]);
}

/** Footfalls that were taken without a look have a dot in their head. */
function dots(ctx: Pen, marks: readonly Mark[], x: At, inks: Inks): void {
  for (const limb of RINGS) {
    ctx.fillStyle = isHind(limb) ? inks.chalk : isLeft(limb) ? inks.cool : inks.warm;
    ctx.beginPath();
    for (const m of marks) {
      if (m.limb !== limb || standing(m) !== "unlooked") continue;
      const at = x(m.on_us);
      ctx.moveTo(at + 2, laneOf(limb));
      ctx.arc(at, laneOf(limb), 2, 0, 2 * Math.PI);
    }
    ctx.fill();
  }
}

/** Very many stances: which columns of pixels they cover, drawn run by run. */
function crowd(ctx: Pen, marks: readonly Mark[], x: At, width: number, inks: Inks): void {
  const columns = Math.ceil(width);
  const covered = RINGS.map(() => new Uint8Array(columns + 1));
  for (const m of marks) {
    const from = Math.max(0, Math.floor(x(m.on_us)));
    const to = Math.min(columns - 1, Math.floor(x(m.off_us ?? m.on_us)));
    const lane = covered[RINGS.indexOf(m.limb)];
    if (lane) for (let c = from; c <= to; c++) lane[c] = 1;
  }
  for (const [k, lane] of covered.entries()) {
    const limb = RINGS[k] ?? "LF";
    ctx.fillStyle = isLeft(limb) ? inks.coolPale : inks.warmPale;
    const y = laneOf(limb) - 6.5;
    for (let c = 0; c < columns; c++) {
      if (lane[c] === 0) continue;
      const first = c;
      while (lane[c] === 1) c++;
      ctx.fillRect(first, y, c - first, 13);
    }
  }
}

/** Footfalls: left round, right square; hind filled, fore outlined. */
function heads(ctx: Pen, marks: readonly Mark[], x: At, inks: Inks, dashed = false): void {
  ctx.lineWidth = 1.5;
  ctx.setLineDash(dashed ? [2, 2] : []);
  for (const limb of RINGS) {
    const ink = isLeft(limb) ? inks.cool : inks.warm;
    const y = laneOf(limb);
    ctx.beginPath();
    for (const m of marks) {
      if (m.limb !== limb) continue;
      const at = x(m.on_us);
      if (isLeft(limb)) {
        ctx.moveTo(at + 5, y);
        ctx.arc(at, y, 5, 0, 2 * Math.PI);
      } else {
        ctx.rect(at - 4.5, y - 4.5, 9, 9);
      }
    }
    ctx.strokeStyle = ink;
    ctx.fillStyle = isHind(limb) && !dashed ? ink : inks.chalk;
    ctx.fill();
    ctx.stroke();
  }
  ctx.setLineDash([]);
}

function frame(ctx: Pen, mark: Mark, x: At, inks: Inks, leads: boolean): void {
  const from = x(mark.on_us);
  const to = typeof mark.off_us === "number" ? x(mark.off_us) : from;
  ctx.strokeStyle = inks.clay;
  ctx.lineWidth = leads ? 2 : 1.2;
  ctx.strokeRect(from - 9, laneOf(mark.limb) - 10, to - from + 18, 20);
}

/** How loud the clip is: hoofbeats stand out. */
function loud(ctx: Pen, { loudness, view, width, inks }: Scene): void {
  if (!loudness) return;
  const columns = Math.floor(width / 2);
  const heights = loudness.columns(view, columns);
  const floor = SOUND_Y + SOUND;
  ctx.fillStyle = inks.line;
  ctx.beginPath();
  ctx.moveTo(0, floor);
  for (let c = 0; c < columns; c++) {
    ctx.lineTo(c * 2, floor - ((heights[c] ?? 0) / 255) * (SOUND - 2));
  }
  ctx.lineTo(width, floor);
  ctx.fill();
}
