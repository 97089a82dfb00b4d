import { describe, expect, it } from "vitest";

import type { Mark } from "../live/clip-store";
import { aimInWords, foretold, type Ground, nextHoof, standing, STILL_POINTS } from "./aim";

const names = { LF: "left fore", RF: "right fore", LH: "left hind", RH: "right hind" };

const mark = (id: string, on_us: number, hoof?: [number, number], off_us?: number): Mark => ({
  ...{ id, limb: "LH", on_us, off_us: off_us ?? null },
  ...(hoof ? { hoof: { x_px: hoof[0], y_px: hoof[1] } } : {}),
});

const ground = (...to_click: [string, number][]) =>
  ({ to_click: to_click.map(([id, at_us]) => ({ id, at_us })) }) as unknown as Ground;

describe("what the next click is", () => {
  it("says limb, point, bar, withers and still so that no other can be meant", () => {
    const marks = [mark("a", 0)];
    const said = [
      aimInWords({ kind: "hoof", mark: "a" }, marks, names),
      aimInWords({ kind: "point", name: "letter B", x_m: 0, y_m: 30 }, marks, names),
      aimInWords({ kind: "bar", at_m: 2.5 }, marks, names),
      aimInWords({ kind: "withers", which: 0 }, marks, names),
      aimInWords({ kind: "withers", which: 1 }, marks, names),
      ...STILL_POINTS.map(([point]) => aimInWords({ kind: "still", point }, marks, names)),
    ];
    expect(said[0]).toBe("Click the left hind hoof’s toe, where it stands.");
    expect(said[1]).toContain("letter B");
    expect(said[2]).toContain("2.5 m");
    for (const words of said) expect(words).toMatch(/^Click .*\.$/);
    expect(new Set(said).size).toBe(said.length);
  });

  it("asks nothing of a footfall that is gone", () => {
    expect(aimInWords({ kind: "hoof", mark: "gone" }, [], names)).toBe("");
  });

  it("goes on from here, over what is clicked, and round to the beginning", () => {
    const all = ground(["a", 10], ["b", 20], ["c", 30]);
    const open = [mark("a", 10), mark("b", 20, [1, 1]), mark("c", 30)];
    expect(nextHoof(all, open, 0)).toBe("a");
    expect(nextHoof(all, open, 10)).toBe("c");
    expect(nextHoof(all, open, 30)).toBe("a");
    const done = open.map((m) => ({ ...m, hoof: { x_px: 1, y_px: 1 } }));
    expect(nextHoof(all, done, 0)).toBeNull();
    // A footfall removed in the meantime is not asked for.
    expect(nextHoof(all, [mark("c", 30)], 0)).toBe("c");
  });
});

describe("where a hoof may be looked for", () => {
  it("stands in the middle of its stance, or a moment after it lands", () => {
    expect(standing(mark("a", 100_000, undefined, 300_000))).toBe(200_000);
    expect(standing(mark("a", 100_000))).toBe(160_000);
  });

  it("is where a horse that goes straight on will be", () => {
    const clicked = [mark("a", 0, [100, 500]), mark("b", 600_000, [400, 530])];
    const at = (us: number) => foretold(clicked, us);
    expect(at(360_000)).toEqual({ x_px: 250, y_px: 515 });
    const later = at(1_260_000);
    expect(later?.x_px).toBeCloseTo(700);
    expect(later?.y_px).toBeCloseTo(560);
  });

  it("is the click itself where there is one, or where the next is too far to trust", () => {
    expect(foretold([], 0)).toBeNull();
    expect(foretold([mark("a", 0)], 0)).toBeNull();
    const one = [mark("a", 0, [100, 500])];
    expect(foretold(one, 5_000_000)).toEqual({ x_px: 100, y_px: 500 });
    // Two limbs that stand together say nothing of the way the horse goes.
    const together = [...one, mark("b", 40_000, [180, 505])];
    expect(foretold(together, 0)).toEqual({ x_px: 100, y_px: 500 });
    const far = [...one, mark("b", 600_000, [400, 530])];
    expect(foretold(far, 9_000_000)).toEqual({ x_px: 400, y_px: 530 });
  });
});
