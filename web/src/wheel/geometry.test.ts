import { expect, it } from "vitest";

import { arc, at } from "./geometry";

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
