import { expect, it } from "vitest";

import { arc, at, halfTurn } from "./geometry";

it("puts phase 0 at twelve and turns clockwise", () => {
  const close = (p: { x: number; y: number }, x: number, y: number) => {
    expect(p.x).toBeCloseTo(x);
    expect(p.y).toBeCloseTo(y);
  };
  close(at(0, 10), 0, -10);
  close(at(0.25, 10), 10, 0);
  close(at(0.5, 10), 0, 10);
});

it("draws a stance over the end of the stride as one arc", () => {
  expect(arc(0.9, 0.4, 10)).toContain("0 0 1");
  expect(arc(0.9, 0.6, 10)).toContain("0 1 1");
});

it("turns a stride that begins with the other hind by half", () => {
  // LF, RF, LH, RH of a trot from the left hind, and from the right.
  const left = { mean: { on: [0.51, 0.01, 0, 0.5] } };
  const right = { mean: { on: [0.01, 0.51, 0.5, 0] } };
  expect(halfTurn(left, right)).toBe(0.5);
  expect(halfTurn(left, left)).toBe(0);
  expect(halfTurn(left, { mean: { on: [null, 0.98, null, 0.47] } })).toBe(0);
});
