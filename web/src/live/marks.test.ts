import { describe, expect, it } from "vitest";

import type { Mark } from "./clip-store";
import { applied, neighbour, openStance } from "./marks";

const mark = (
  id: string,
  limb: Mark["limb"],
  on_us: number,
  off_us: number | null = null,
): Mark => ({
  id,
  limb,
  on_us,
  off_us,
});

const a = mark("a", "RH", 100);
const b = mark("b", "LH", 300, 500);

describe("marks", () => {
  it("applies an edit and its reverse back to where it began", () => {
    const moved = { ...a, on_us: 400 };
    const changes = [
      { before: a, after: moved },
      { before: b, after: null },
      { before: null, after: mark("c", "LF", 50) },
    ];
    const after = applied([a, b], changes);
    expect(after.map((m) => m.id)).toEqual(["c", "a"]);
    const back = changes.map((c) => ({ before: c.after, after: c.before })).reverse();
    expect(applied(after, back)).toEqual([a, b]);
  });

  it("does not make a mark twice when an edit comes twice", () => {
    const changes = [{ before: null, after: a }];
    expect(applied(applied([b], changes), changes)).toEqual([a, b]);
  });

  it("finds neighbours in time and the stance a lift-off ends", () => {
    expect(neighbour([a, b], 100, 1)).toBe(b);
    expect(neighbour([a, b], 300, -1)).toBe(a);
    expect(neighbour([a, b], 300, 1)).toBeUndefined();
    expect(openStance([a, b], "LH", 450)).toBe(b);
    expect(openStance([a, b], "LH", 300)).toBeUndefined();
  });
});
