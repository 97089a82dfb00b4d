import { expect, it } from "vitest";

import { Loudness } from "./loudness";

// A minute of sound at 1 ms a point: a click every second, each louder than the one before.
const points = Array.from({ length: 60_000 }, (_, k) => (k % 1000 === 500 ? 100 + k / 1000 : 3));
const loud = new Loudness({ step_us: 1000, points });

it("shows every click, however wide the window", () => {
  for (const [from, to] of [
    [0, 60],
    [10, 20],
    [30.2, 33.9],
  ] as const) {
    const columns = loud.columns({ from: from * 1e6, to: to * 1e6 }, 1000);
    expect(columns).toHaveLength(1000);
    const clicks = [...columns].filter((v) => v > 50).length;
    const wanted = Array.from({ length: 60 }, (_, s) => s + 0.5).filter((t) => t >= from && t < to);
    // A click on the border of two columns may stand in both.
    expect(clicks).toBeGreaterThanOrEqual(wanted.length);
    expect(clicks).toBeLessThanOrEqual(2 * wanted.length);
  }
});

it("puts a click where it is heard, to a column", () => {
  const columns = loud.columns({ from: 0, to: 60e6 }, 600);
  for (const second of [0, 17, 59]) {
    const near = [...columns.slice(second * 10 + 4, second * 10 + 7)];
    expect(Math.max(...near)).toBe(100 + second);
  }
});

it("is silent where there is no sound", () => {
  const none = new Loudness({ step_us: 1000, points: [] });
  expect([...none.columns({ from: 0, to: 1e6 }, 10)]).toEqual(Array(10).fill(0));
  expect([...loud.columns({ from: 70e6, to: 80e6 }, 10)]).toEqual(Array(10).fill(0));
});
