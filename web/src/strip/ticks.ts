import { scaleUtc } from "d3-scale";

/** Least pixels from one number to the next. */
const APART = 64;

export type Tick = { s: number; says: string };

/** Moments to be named on a stretch of time, true seconds, drawn this many pixels wide: at round
 * parts of a second, seconds or minutes. */
export function ticks(from: number, to: number, width: number): readonly Tick[] {
  const scale = scaleUtc().domain([from * 1000, to * 1000]);
  let at: readonly number[] = [];
  let step = Infinity;
  for (let most = Math.ceil(width / APART); most >= 1; most--) {
    at = scale.ticks(most).map((d) => d.getTime());
    step = (at[1] ?? Infinity) - (at[0] ?? 0);
    if ((step / 1000 / (to - from)) * width >= APART) break;
  }
  return at.map((ms) => ({ s: ms / 1000, says: label(ms / 1000, step) }));
}

/** A moment, the next one `step` ms later. */
function label(s: number, step: number): string {
  if (step >= 60_000 && s % 60 === 0) return `${Math.round(s / 60)} min`;
  const digits = step < 100 ? 2 : step < 1000 ? 1 : 0;
  if (s < 60) return `${s.toFixed(digits)} s`;
  const wide = digits ? digits + 3 : 2;
  return `${Math.floor(s / 60)}:${(s % 60).toFixed(digits).padStart(wide, "0")}`;
}
