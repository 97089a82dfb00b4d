import { expect, test } from "vitest";

import { draw, type Scene } from "./draw";
import { LANE_Y } from "./rows";
import { SvgPen } from "./svg-pen";

const inks = {
  ...{ line: "#111111", cool: "#222222", warm: "#333333", coolPale: "#444444" },
  ...{ warmPale: "#555555", chalk: "#666666", clay: "#777777" },
} as Scene["inks"];

function scene(marks: Scene["marks"]): Scene {
  return {
    ...{ view: { from: 0, to: 1_000_000 }, width: 1000, marks, chosen: new Set<string>() },
    ...{ selected: null, foretold: [], hidden: null, loudness: null, inks },
  };
}

/** Numbers of a path. */
const numbers = (part: string) =>
  (/ d="([^"]*)"/.exec(part)?.[1] ?? "").match(/-?\d+(\.\d+)?/g)?.map(Number) ?? [];

test("a stance and its footfall stand at their times, in their lane", () => {
  const pen = new SvgPen();
  draw(pen, scene([{ id: "a", limb: "LH", on_us: 250_000, off_us: 550_000 }] as Scene["marks"]));
  const bar = pen.parts.find((p) => p.includes('fill="#444444"')) ?? "";
  // From 250 to 550 of 1000 pixels, 13 high about its lane.
  const y = LANE_Y[2] ?? 0;
  expect(numbers(bar)).toEqual([250, y - 6.5, 300, 13, -300]);
  // A left hind: round and filled, ringed in its ink.
  const head = pen.parts.find((p) => p.startsWith("<path") && p.includes('fill="#222222"')) ?? "";
  expect(head).toContain("A5 5");
  expect(numbers(head).slice(0, 2)).toEqual([255, y]);
  expect(pen.parts.some((p) => p.includes('stroke="#222222"'))).toBe(true);
});

test("left is round and right is square, hinds are filled and fores are open", () => {
  const looks = (limb: string) => {
    const pen = new SvgPen();
    draw(pen, scene([{ id: "a", limb, on_us: 500_000, off_us: null }] as Scene["marks"]));
    const head = pen.parts.find((p) => / d="/.test(p) && !p.includes('fill="none"')) ?? "";
    return [head.includes("A5"), head.includes('fill="#666666"')];
  };
  expect(looks("LF")).toEqual([true, true]);
  expect(looks("LH")).toEqual([true, false]);
  expect(looks("RF")).toEqual([false, true]);
  expect(looks("RH")).toEqual([false, false]);
});

test("a drawing begun again leaves nothing of the one before", () => {
  const pen = new SvgPen();
  draw(pen, scene([{ id: "a", limb: "RH", on_us: 1, off_us: 9 }] as Scene["marks"]));
  draw(pen, scene([]));
  expect(pen.parts.filter((p) => p.startsWith("<path"))).toEqual([]);
});
