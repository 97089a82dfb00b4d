import { describe, expect, it } from "vitest";

import type { Schemas } from "../api/client";
import { follow, pairs } from "./lock";

type Mark = Schemas["Mark"];

/** A trot of `n` strides of `t` µs from a moment on; the left fore lands `lf` of a stride in. */
function trot(n: number, t: number, from: number, lf = 0.51): Mark[] {
  const limbs = [
    ["LH", 0],
    ["RF", 0.01],
    ["RH", 0.5],
    ["LF", lf],
  ] as const;
  return Array.from({ length: n }, (_, k) =>
    limbs.map(([limb, phase]) => ({
      id: `${limb}${k}`,
      limb,
      on_us: Math.round(from + (k + phase) * t),
      off_us: null,
    })),
  ).flat();
}

const whole = (marks: Mark[]) => ({
  marks,
  from_us: marks[0]?.on_us ?? 0,
  to_us: Math.max(...marks.map((m) => m.on_us)) + 1,
});

describe("two clips locked stride for stride", () => {
  it("puts every footfall of one on the same limb's of the other", () => {
    const [a, b] = [trot(20, 750_000, 500_000), trot(20, 690_000, 2_000_000)];
    const locked = pairs(whole(a), whole(b), "stride");
    for (const [k, m] of a.entries()) expect(follow(locked, m.on_us)).toBe(b[k]?.on_us);
  });

  it("never runs backwards when two limbs change their order", () => {
    const [a, b] = [trot(12, 750_000, 0, 0.52), trot(12, 700_000, 0, 0.48)];
    const locked = pairs(whole(a), whole(b), "stride");
    expect(locked.every((p, k) => k === 0 || p[1] > (locked[k - 1]?.[1] ?? 0))).toBe(true);
    const starts = a.filter((m) => m.limb === "LH");
    for (const m of starts) {
      expect(follow(locked, m.on_us)).toBe(b.find((o) => o.id === m.id)?.on_us);
    }
  });

  it("keeps only beginnings beat for beat, and only the first one plainly", () => {
    const [a, b] = [trot(5, 800_000, 0), trot(5, 700_000, 100_000)];
    expect(pairs(whole(a), whole(b), "beat")).toHaveLength(5);
    const plain = pairs(whole(a), whole(b), "plain");
    expect(follow(plain, 1_600_000)).toBe(1_700_000);
    // Beyond the last pair the pace of the last stride goes on.
    const beat = pairs(whole(a), whole(b), "beat");
    expect(follow(beat, 4 * 800_000)).toBe(100_000 + 4 * 700_000);
  });

  it("keeps time growing and every stride in step for any two rides of the same gait", () => {
    // A generator with a seed (mulberry32): the same rides each time.
    let seed = 1;
    const random = () => {
      seed = (seed + 0x6d2b79f5) | 0;
      let t = Math.imul(seed ^ (seed >>> 15), 1 | seed);
      t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
      return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
    };
    for (let ride = 0; ride < 200; ride++) {
      const of = () =>
        trot(
          2 + Math.floor(random() * 20),
          600_000 + Math.floor(random() * 300_000),
          Math.floor(random() * 5_000_000),
          0.46 + random() * 0.08,
        ).filter(() => random() > 0.05);
      const [a, b] = [of(), of()];
      if (a.length === 0 || b.length === 0) continue;
      for (const way of ["stride", "beat", "plain"] as const) {
        const locked = pairs(whole(a), whole(b), way);
        expect(locked.length).toBeGreaterThan(0);
        for (const [k, p] of locked.entries()) {
          const before = locked[k - 1];
          if (before) expect(p[0] > before[0] && p[1] > before[1]).toBe(true);
          // At a pair the second clip is exactly there, and between two it lies between them.
          if (way !== "plain") expect(follow(locked, p[0])).toBeCloseTo(p[1], 3);
          if (before) {
            const half = follow(locked, (before[0] + p[0]) / 2);
            expect(half > before[1] && half < p[1]).toBe(true);
          }
        }
      }
    }
  });

  it("goes on from where both begin when one of them has no hind", () => {
    const fores = trot(4, 800_000, 0).filter((m) => m.limb.endsWith("F"));
    const locked = pairs(
      { marks: fores, from_us: 10, to_us: 9e6 },
      whole(trot(4, 700_000, 50)),
      "stride",
    );
    expect(locked).toEqual([[10, 50]]);
    expect(follow(locked, 1000)).toBe(1040);
  });
});
