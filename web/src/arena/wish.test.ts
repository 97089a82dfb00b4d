import { describe, expect, it } from "vitest";

import { asked, FIRST, linesOf, type Wish } from "./wish";

const wish = (change: Partial<Wish>): Wish => ({ ...FIRST, ...change });

describe("what the arena is asked to draw", () => {
  it("asks for the figure that is chosen with its own numbers and no other's", () => {
    expect(asked(wish({ kind: "circle" })).figure).toEqual({
      ...{ kind: "circle", from: "F", to: "H" },
      ...{ at_m: 26, side: "right", diameter_m: 10 },
    });
    expect(asked(wish({ kind: "line", from: "K", to: "M" })).figure).toEqual({
      ...{ kind: "line", from: "K", to: "M" },
    });
    expect(asked(wish({ kind: "serpentine", loops: 4, side: "left" })).figure).toEqual({
      ...{ kind: "serpentine", loops: 4, first: "left" },
    });
  });

  it("lays a spiral against the short side, in the middle of it", () => {
    const { figure } = asked(wish({ kind: "spiral", diameter_m: 20, small_m: 10 }));
    expect(figure).toMatchObject({ kind: "spiral", middle: [10, 10], from_m: 20, to_m: 10 });
    const small = wish({ kind: "spiral", arena: { width_m: 15, length_m: 30 }, diameter_m: 14 });
    expect(asked(small).figure).toMatchObject({ middle: [7.5, 7] });
  });

  it("asks for a row of changes on a line only", () => {
    expect(asked(wish({ kind: "line", every: 3, changes: 7 })).row).toEqual({ every: 3, count: 7 });
    for (const kind of ["circle", "serpentine", "spiral"] as const) {
      expect(asked(wish({ kind })).row).toBeNull();
    }
  });

  it("reads a place across and along as numbers and a letter as a letter", () => {
    expect(asked(wish({ kind: "line", from: "5,0", to: "5,60" })).figure).toMatchObject({
      ...{ from: [5, 0], to: [5, 60] },
    });
    expect(asked(wish({ kind: "line", from: "X", to: "C" })).figure).toMatchObject({ from: "X" });
  });

  it("offers only lines whose letters the arena has", () => {
    const ends = (width_m: number, length_m: number) =>
      linesOf({ width_m, length_m }).flatMap(([, a, b]) => [a, b]);
    const large = ends(20, 60);
    const small = ends(20, 40);
    const own = ends(18, 35);
    for (const letter of ["P", "S", "D"]) {
      expect(large).toContain(letter);
      expect(small).not.toContain(letter);
    }
    expect(small).toContain("F");
    // An arena of the yard's own measures has a centre line and quarter lines.
    expect(own.filter((e) => e.length === 1)).toEqual(["A", "C"]);
    expect(own).toContain("4.5,0");
    expect(own).toContain("13.5,35");
  });

  it("names every line once and never joins a place with itself", () => {
    for (const [width_m, length_m] of [
      [20, 60],
      [20, 40],
      [15, 30],
    ] as const) {
      const lines = linesOf({ width_m, length_m });
      expect(new Set(lines.map(([says]) => says)).size).toBe(lines.length);
      for (const [, a, b] of lines) expect(a).not.toBe(b);
    }
  });
});
