import { expect, it } from "vitest";

import { ticks } from "./ticks";

const says = (from: number, to: number) => ticks(from, to, 1000).map((t) => t.says);

it("names round moments, in the words of their size", () => {
  expect(says(0, 12)).toEqual([
    "0 s",
    "1 s",
    "2 s",
    "3 s",
    "4 s",
    "5 s",
    "6 s",
    "7 s",
    "8 s",
    "9 s",
    "10 s",
    "11 s",
    "12 s",
  ]);
  expect(says(10, 10.9)).toEqual([
    ...[0, 1, 2, 3, 4, 5, 6, 7, 8, 9].map((tenth) => `10.${tenth} s`),
  ]);
  expect(says(9.99, 10.2).slice(0, 3)).toEqual(["10.00 s", "10.02 s", "10.04 s"]);
  expect(says(55, 85)).toEqual(["55 s", "1:00", "1:05", "1:10", "1:15", "1:20", "1:25"]);
  expect(says(0, 1800)).toEqual([
    "0 min",
    "5 min",
    "10 min",
    "15 min",
    "20 min",
    "25 min",
    "30 min",
  ]);
});

it("keeps numbers apart at any width and length, and all within the stretch", () => {
  for (const width of [300, 640, 1000, 2400]) {
    for (let length = 0.6; length < 4000; length *= 1.13) {
      const all = ticks(3.7, 3.7 + length, width);
      expect(all.length).toBeGreaterThan(0);
      for (const [k, { s }] of all.entries()) {
        expect(s).toBeGreaterThanOrEqual(3.7 - 1e-9);
        expect(s).toBeLessThanOrEqual(3.7 + length + 1e-9);
        const before = all[k - 1];
        // Six letters of 12.5 pixels' type are 46 pixels wide.
        if (before) expect(((s - before.s) / length) * width).toBeGreaterThan(63);
      }
      expect(new Set(all.map((t) => t.says)).size).toBe(all.length);
    }
  }
});
