import type { Schemas } from "../api/client";

type Mark = Schemas["Mark"];
type Limb = Schemas["LimbCode"];

/** How the second clip follows the first. */
export type Way = "stride" | "beat" | "plain";

/** A moment of the first clip and the moment of the second that belongs to it, µs. */
export type Pair = readonly [number, number];

const LIMBS: readonly Limb[] = ["LF", "RF", "LH", "RH"];

/** Footfalls of a limb within a stretch, µs, in order. */
function footfalls(marks: readonly Mark[], limb: Limb, from: number, to: number): number[] {
  return marks
    .filter((m) => m.limb === limb && m.on_us >= from && m.on_us <= to)
    .map((m) => m.on_us)
    .sort((a, b) => a - b);
}

type Stretch = { marks: readonly Mark[]; from_us: number; to_us: number };

/**
 * Pairs of moments that belong together. Stride for stride: every footfall of the first clip with
 * the same limb's in the second, from the first stride on; where two limbs land in another order
 * in the second clip, one of them is left out, so that time never runs backwards. Beat for beat:
 * only the beginnings of strides. Plain: only the two beginnings.
 */
export function pairs(a: Stretch, b: Stretch, way: Way): Pair[] {
  const start = firstLimb(a);
  if (!start) return [[a.from_us, b.from_us]];
  const first = footfalls(a.marks, start, a.from_us, a.to_us);
  const second = footfalls(b.marks, start, b.from_us, b.to_us);
  const strides = zip(first, second);
  if (way === "plain" || strides.length === 0) return [strides[0] ?? [a.from_us, b.from_us]];
  if (way === "beat") return strides;
  const [begin = [0, 0]] = strides;
  const all = [...strides];
  for (const limb of LIMBS) {
    if (limb === start) continue;
    // The first footfall of each limb after the first stride has begun.
    const own = footfalls(a.marks, limb, begin[0], a.to_us);
    const other = footfalls(b.marks, limb, begin[1], b.to_us);
    all.push(...zip(own, other));
  }
  all.sort((p, q) => p[0] - q[0] || p[1] - q[1]);
  return increasing(all, new Set(strides.map(([t]) => t)));
}

function zip(a: readonly number[], b: readonly number[]): Pair[] {
  return a.slice(0, b.length).map((t, k) => [t, b[k] ?? 0] as const);
}

/** The limb that begins the stretch: its first hind. */
function firstLimb(s: Stretch): Limb | null {
  const hinds = s.marks
    .filter((m) => m.limb.endsWith("H") && m.on_us >= s.from_us && m.on_us <= s.to_us)
    .sort((p, q) => p.on_us - q.on_us);
  return hinds[0]?.limb ?? null;
}

/** Leaves out pairs that would turn time back; beginnings of strides stay. */
function increasing(all: readonly Pair[], kept: ReadonlySet<number>): Pair[] {
  const out: Pair[] = [];
  for (const p of all) {
    let last = out.at(-1);
    // The beginning of a stride stands over what came before it.
    while (last && kept.has(p[0]) && !kept.has(last[0]) && last[1] >= p[1]) {
      out.pop();
      last = out.at(-1);
    }
    if (!last || (p[0] > last[0] && p[1] > last[1])) out.push(p);
  }
  return out;
}

/** The moment of the second clip for one of the first, µs: straight between pairs, at the pace of
 * the nearest two outside them. */
export function follow(pairs: readonly Pair[], us: number): number {
  const [first = [0, 0]] = pairs;
  if (pairs.length < 2) return first[1] + (us - first[0]);
  let k = pairs.findIndex((p) => p[0] > us) - 1;
  if (k === -2) k = pairs.length - 2;
  const [a, b] = [pairs[Math.max(k, 0)] ?? first, pairs[Math.max(k, 0) + 1] ?? first];
  const share = (us - a[0]) / (b[0] - a[0] || 1);
  return a[1] + share * (b[1] - a[1]);
}
