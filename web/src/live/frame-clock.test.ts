import { describe, expect, it } from "vitest";

import { frameAt, middleOf, nearest } from "./frame-clock";

// A variable rate with a pause, as phones record.
const times = [0, 8333, 16667, 33333, 41667, 1_000_000, 1_008_333];

describe("frames by their own times", () => {
  it("shows the last frame that has begun", () => {
    expect(frameAt(times, 8332)).toBe(0);
    expect(frameAt(times, 8333)).toBe(1);
    expect(frameAt(times, 900_000)).toBe(4);
    expect(frameAt(times, -5)).toBe(0);
    expect(frameAt(times, 9e9)).toBe(6);
  });

  it("knows a reported time by its nearest frame, whatever the rounding", () => {
    for (const [k, us] of times.entries()) {
      expect(nearest(times, us - 0.4)).toBe(k);
      expect(nearest(times, us + 0.4)).toBe(k);
    }
  });

  it("aims at the middle of a frame, and every aim shows that frame", () => {
    for (const k of times.keys()) expect(frameAt(times, middleOf(times, k))).toBe(k);
    expect(middleOf(times, 4)).toBe((41667 + 1_000_000) / 2);
  });
});
