import { afterEach, describe, expect, it, vi } from "vitest";

import { BOUT_COLUMNS, boutRows } from "./bouts-csv";
import { dayAndMonth, inFull, today } from "./dates";
import { plusMinus } from "./plus-minus";

const estimate = (value: number, ci95?: [number, number]) => ({ value, ci95, n: 9 });

afterEach(() => vi.useRealTimers());

describe("a figure with its error", () => {
  it("shows half of the interval in the figure's own digits", () => {
    expect(plusMinus(estimate(98.47, [97.9, 99.04]), 1, 1)).toBe("98.5 ± 0.6");
    expect(plusMinus(estimate(0.0123, [0.0103, 0.0143]), 1000, 0)).toBe("12 ± 2");
  });

  it("shows the bare value where no error is known, and no minus before nothing", () => {
    expect(plusMinus(estimate(3.456), 1, 2)).toBe("3.46");
    expect(plusMinus(estimate(-0.004), 1, 2)).toBe("0.00");
    expect(plusMinus(estimate(-0.4), 1, 0)).toBe("0");
    expect(plusMinus(estimate(-0.006), 1, 2)).toBe("-0.01");
    expect(plusMinus(estimate(-10.2), 1, 0)).toBe("-10");
  });
});

describe("days", () => {
  it("are said where the coach is, whatever the hour", () => {
    expect(dayAndMonth("2026-11-04")).toBe("4 Nov");
    expect(inFull("2026-01-01")).toBe("1 January 2026");
    vi.useFakeTimers({ now: new Date(2026, 0, 9, 23, 59) });
    expect(today()).toBe("2026-01-09");
    vi.setSystemTime(new Date(2026, 11, 31, 0, 1));
    expect(today()).toBe("2026-12-31");
  });
});

describe("a table of all figures", () => {
  const bout = {
    ...{ label: "Trot", rein: "left", start_s: 1, end_s: 9.5, strides: 12, gait: "trot" },
    tempo_strides_per_min: { value: 77.1, ci95: [76.5, 77.7], sd: 1.2, n: 12 },
    duty_factor: { LF: { value: 0.42, ci95: [0.4, 0.44], sd: 0.01, n: 12 }, RF: null },
    confidence: 0.97,
  };
  const rows = boutRows([bout, { ...bout, rein: null }] as never);

  it("has a row for every figure, under its name, as wide as its head", () => {
    expect(rows.map((r) => [r[0], r[6], r[7]])).toEqual([
      [1, "tempo_strides_per_min", 77.1],
      [1, "duty_factor.LF", 0.42],
      [2, "tempo_strides_per_min", 77.1],
      [2, "duty_factor.LF", 0.42],
    ]);
    for (const row of rows) expect(row).toHaveLength(BOUT_COLUMNS.length);
    expect(rows[0]?.slice(1, 6)).toEqual(["Trot", "left", 1, 9.5, 12]);
    expect(rows[0]?.slice(7)).toEqual([77.1, 76.5, 77.7, 1.2, 12]);
  });
});
