import type { Schemas } from "../api/client";
import type { Limb } from "../ui/limbs";

type Mark = Schemas["Mark"];
type Change = Schemas["MarkChange"];

const before = (a: Mark, b: Mark) => a.on_us - b.on_us || (a.id < b.id ? -1 : 1);

/** Marks in order of time. */
export function sorted(marks: readonly Mark[]): readonly Mark[] {
  return [...marks].sort(before);
}

/** Marks after changes. */
export function applied(marks: readonly Mark[], changes: readonly Change[]): readonly Mark[] {
  const gone = new Set(changes.flatMap((c) => (c.before ? [c.before.id] : [])));
  const kept = marks.filter((m) => !gone.has(m.id));
  const come = changes.flatMap((c) => (c.after ? [c.after] : []));
  const there = new Set(kept.map((m) => m.id));
  return sorted([...kept, ...come.filter((m) => !there.has(m.id))]);
}

/** The footfall after a time, or before it. */
export function neighbour(marks: readonly Mark[], us: number, direction: 1 | -1): Mark | undefined {
  return direction > 0 ? marks.find((m) => m.on_us > us) : marks.findLast((m) => m.on_us < us);
}

/** The mark of a limb whose footfall is on this very frame. */
export function onFrame(marks: readonly Mark[], limb: Limb, us: number): Mark | undefined {
  return marks.find((m) => m.limb === limb && m.on_us === us);
}

/** The latest footfall of a limb before a time: the stance a lift-off ends. */
export function openStance(marks: readonly Mark[], limb: Limb, us: number): Mark | undefined {
  return marks.findLast((m) => m.limb === limb && m.on_us < us);
}
