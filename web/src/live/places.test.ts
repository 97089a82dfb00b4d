import { describe, expect, it } from "vitest";

import type { Mark } from "./clip-store";
import { changedElsewhere, firstFrom, inOrder, onFrame, otherSide, sorted, swapped } from "./marks";
import { LETTERS, movementWords, tagInShort, TICKS } from "./tag-words";

const mark = (id: string, limb: Mark["limb"], on_us: number): Mark => ({
  ...{ id, limb, on_us, off_us: null },
});

describe("marks in order", () => {
  const many = Array.from({ length: 500 }, (_, k) => mark(`m${k}`, "LF", 40 * k));

  it("finds the first from any moment on, as looking at each does", () => {
    for (const us of [-1, 0, 1, 39, 40, 9999, 10_000, 19_960, 19_961, 1e9]) {
      const slow = many.findIndex((m) => m.on_us >= us);
      expect(firstFrom(many, us)).toBe(slow < 0 ? many.length : slow);
    }
    expect(firstFrom([], 5)).toBe(0);
  });

  it("puts marks of one moment into an order of their own, whatever came first", () => {
    const same = ["c", "a", "b"].map((id) => mark(id, "RH", 7));
    const ids = (marks: readonly Mark[]) => marks.map((m) => m.id);
    expect(ids(sorted(same))).toEqual(["a", "b", "c"]);
    expect(ids(sorted([...same].reverse()))).toEqual(["a", "b", "c"]);
    const tag = (id: string, from_us: number) =>
      ({ id, from_us, to_us: null, what: { kind: "unseen" } }) as const;
    expect([tag("b", 1), tag("a", 1), tag("z", 0)].sort(inOrder).map((t) => t.id)).toEqual([
      ...["z", "a", "b"],
    ]);
  });

  it("changes sides and back", () => {
    for (const limb of ["LF", "RF", "LH", "RH"] as const) {
      expect(otherSide(limb)).not.toBe(limb);
      expect(otherSide(limb)[1]).toBe(limb[1]);
      expect(otherSide(otherSide(limb))).toBe(limb);
    }
    const [change] = swapped([mark("a", "LH", 5)]);
    expect(change).toMatchObject({
      before: { limb: "LH" },
      after: { id: "a", limb: "RH", on_us: 5 },
    });
  });

  it("knows the footfall of a limb on this very frame, and no other", () => {
    const both = [mark("a", "LF", 5), mark("b", "RF", 5), mark("c", "LF", 6)];
    expect(onFrame(both, "RF", 5)?.id).toBe("b");
    expect(onFrame(both, "RF", 6)).toBeUndefined();
  });

  it("tells a footfall that moved from one that came", () => {
    const [a, b] = [mark("a", "LF", 5), mark("b", "RF", 9)];
    expect(changedElsewhere([a, b], [b, a])).toBeNull();
    expect(changedElsewhere([a], [{ ...a, on_us: 6 }])).toContain("1 footfall came");
    expect(changedElsewhere([a, b], [b])).toContain("1 footfall was removed");
    expect(changedElsewhere([], [a, b])).toContain("2 footfalls came");
  });
});

describe("what was marked, in short", () => {
  const known = [{ id: "shoulder-in", says: "shoulder-in" }];
  const short = (what: object) =>
    tagInShort({ id: "t", from_us: 0, to_us: null, what } as never, known);

  it("says every kind so that it can be told from the others", () => {
    const said = [
      short({ kind: "aid", asked: "canter-left" }),
      short({ kind: "letter", letter: "B" }),
      short({ kind: "note", text: "lighter" }),
      short({ kind: "unseen" }),
      short({ kind: "still", points: {} }),
      short({ kind: "still", points: {}, working: true }),
      short({ kind: "ridden" }),
      short({ kind: "ridden", movement: "shoulder-in", attempt: 2, ticks: ["straight"] }),
    ];
    expect(new Set(said).size).toBe(said.length);
    expect(said.at(-1)).toBe("shoulder-in · try 2 · straight");
    for (const text of said) expect(text).not.toMatch(/undefined|null|\[object/);
  });

  it("shows a movement that is not on the list by its name", () => {
    expect(movementWords("schritt-pause", known)).toBe("schritt-pause");
    expect(movementWords("drill-2x3", known)).toBe("drill 2 and 3 strides");
    expect(movementWords("tempi-2", known)).toBe("changes every 2 strides");
  });

  it("offers every letter and tick once", () => {
    expect(new Set(LETTERS).size).toBe(LETTERS.length);
    for (const letter of "AKVESHCMRBPFXDLIG") expect(LETTERS).toContain(letter);
    expect(new Set(TICKS).size).toBe(TICKS.length);
  });
});
