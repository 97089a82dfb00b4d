import { expect, it } from "vitest";

import { dayOf, daysOn, monthsOn, weeksOf } from "./month";

it("lays a month in weeks from Monday", () => {
  // 1 November 2026 is a Sunday, 1 June 2026 a Monday; February 2028 has 29 days.
  const november = weeksOf("2026-11-14");
  expect(november[0]).toEqual([null, null, null, null, null, null, "2026-11-01"]);
  expect(november.flat().filter(Boolean)).toHaveLength(30);
  expect(weeksOf("2026-06-30")[0]?.[0]).toBe("2026-06-01");
  expect(weeksOf("2028-02-01").flat().filter(Boolean)).toHaveLength(29);
  for (const week of november) expect(week).toHaveLength(7);
});

it("walks over months and years", () => {
  expect(daysOn("2026-12-31", 1)).toBe("2027-01-01");
  expect(daysOn("2028-03-01", -1)).toBe("2028-02-29");
  expect(monthsOn("2026-01-31", 1)).toBe("2026-02-28");
  expect(monthsOn("2026-01-15", -1)).toBe("2025-12-15");
});

it("reads days as people write them, and no others", () => {
  const now = "2026-11-26";
  for (const text of ["2026-11-14", "14.11.2026", "14/11/26", "14 11", " 14.11. "]) {
    expect(dayOf(text, now)).toBe("2026-11-14");
  }
  for (const text of ["", "soon", "14", "31.2.2026", "2026-13-01", "1.1.1066"]) {
    expect(dayOf(text, now)).toBeNull();
  }
});
