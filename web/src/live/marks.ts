import type { Schemas } from "../api/client";
import type { Limb } from "../ui/limbs";
import { isOpen } from "./suggestions";

type Mark = Schemas["Mark"];
type Change = Schemas["MarkChange"];

const before = (a: Mark, b: Mark) => a.on_us - b.on_us || (a.id < b.id ? -1 : 1);

type Named = { id: string };
type Swap<T> = { before?: T | null; after?: T | null };

/** What stands at a moment or from one on, in order of time. */
export const inOrder = (a: Schemas["Tag"], b: Schemas["Tag"]) =>
  a.from_us - b.from_us || (a.id < b.id ? -1 : 1);

/** Marks in order of time. */
export function sorted(marks: readonly Mark[]): readonly Mark[] {
  return [...marks].sort(before);
}

/** Marks (or what else is kept in `order`) after changes. */
export function applied(marks: readonly Mark[], changes: readonly Change[]): readonly Mark[];
export function applied<T extends Named>(
  list: readonly T[],
  changes: readonly Swap<T>[],
  order: (a: T, b: T) => number,
): readonly T[];
export function applied<T extends Named>(
  list: readonly T[],
  changes: readonly Swap<T>[],
  order: (a: T, b: T) => number = before as unknown as (a: T, b: T) => number,
): readonly T[] {
  const gone = new Set(changes.flatMap((c) => (c.before ? [c.before.id] : [])));
  const kept = list.filter((m) => !gone.has(m.id));
  const come = changes.flatMap((c) => (c.after ? [c.after] : []));
  const there = new Set(kept.map((m) => m.id));
  return [...kept, ...come.filter((m) => !there.has(m.id))].sort(order);
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

/** Place of the first mark from a time on. */
export function firstFrom(marks: readonly Mark[], us: number): number {
  let low = 0;
  let high = marks.length;
  while (low < high) {
    const mid = (low + high) >> 1;
    if ((marks[mid]?.on_us ?? 0) < us) low = mid + 1;
    else high = mid;
  }
  return low;
}

/** The limb of the other side. */
export function otherSide(limb: Limb): Limb {
  return (limb.startsWith("L") ? `R${limb[1]}` : `L${limb[1]}`) as Limb;
}

/** Marks with left and right exchanged, as changes. */
export function swapped(marks: readonly Mark[]): Change[] {
  return marks.map((m) => ({ before: m, after: { ...m, limb: otherSide(m.limb) } }));
}

/** What came from elsewhere, in a sentence; nothing when no footfall differs. */
export function changedElsewhere(before: readonly Mark[], after: readonly Mark[]): string | null {
  const key = (m: Mark) => `${m.id} ${m.limb} ${m.on_us} ${m.off_us}`;
  const had = new Set(before.map(key));
  const has = new Set(after.map(key));
  // What was found by itself says so in its own place.
  const come = after.filter((m) => !had.has(key(m)) && !isOpen(m)).length;
  const gone = before.filter((m) => !has.has(key(m))).length;
  if (come + gone === 0) return null;
  const words = come === 1 ? "1 footfall" : `${come} footfalls`;
  return come > 0
    ? `${words} came from another window; nothing of yours was lost.`
    : `${gone === 1 ? "1 footfall was" : `${gone} footfalls were`} removed in another window; Z brings them back.`;
}
