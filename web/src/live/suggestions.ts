import type { Schemas } from "../api/client";

type Mark = Schemas["Mark"];

/** Whether someone has answered for a mark: `open` is suggested and does not count, `unlooked` was
 * taken with others, `seen` is a person's own or was looked at. */
export type Standing = "open" | "unlooked" | "seen";

export function standing({ origin }: Mark): Standing {
  if (origin?.how === "sensor") return "unlooked";
  if (origin?.how !== "suggested") return "seen";
  if (origin.answer === "open") return "open";
  return origin.answer === "looked" ? "seen" : "unlooked";
}

export const isOpen = (mark: Mark) => standing(mark) === "open";

/** A suggestion after the coach's answer; any other mark as it is. */
export function answered(mark: Mark, answer: "taken" | "looked"): Mark {
  const { origin } = mark;
  return origin?.how === "suggested" ? { ...mark, origin: { ...origin, answer } } : mark;
}

/** The suggestions that one stride holds, from the first after a time: each limb once. */
export function nextStride(marks: readonly Mark[], after_us: number): Mark[] {
  const out: Mark[] = [];
  for (const mark of marks) {
    if (mark.on_us <= after_us || !isOpen(mark)) continue;
    if (out.some((m) => m.limb === mark.limb)) break;
    const first = out[0];
    if (first && mark.on_us - first.on_us > LONGEST_US) break;
    out.push(mark);
  }
  return out;
}

/** No stride takes longer, µs of the file; in slow motion its footfalls come in parts. */
const LONGEST_US = 2_500_000;
