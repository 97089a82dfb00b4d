import { expect, test } from "vitest";

import { BOUT_COLUMNS, boutRows } from "./bouts-csv";
import type { Schemas } from "../api/client";
import { asCsv, threeCells } from "./save-table";

/** A reader by RFC 4180, apart from the writer. */
function read(text: string): string[][] {
  const rows: string[][] = [[]];
  let cell = "";
  let quoted = false;
  for (let k = 0; k < text.length; k++) {
    const c = text[k];
    const next = text[k + 1];
    if (quoted && c === '"' && next === '"') {
      cell += '"';
      k++;
    } else if (c === '"') quoted = !quoted;
    else if (quoted || (c !== "," && c !== "\r")) cell += c ?? "";
    else {
      rows.at(-1)?.push(cell);
      cell = "";
      if (c === "\r" && next === "\n") {
        rows.push([]);
        k++;
      }
    }
  }
  return rows.slice(0, -1);
}

test("what is written is read back, whatever stands in a cell", () => {
  const rows = [
    ["Priel", 1.25, null, "rides, then rests"],
    ['said "good"', -0.5, undefined, "two\nlines"],
  ];
  const back = read(asCsv(["a", "b", "c", "d"], rows));
  expect(back).toEqual([
    ["a", "b", "c", "d"],
    ["Priel", "1.25", "", "rides, then rests"],
    ['said "good"', "-0.5", "", "two\nlines"],
  ]);
  expect(threeCells({ value: 3, ci95: [2, 4] })).toEqual([3, 2, 4]);
  expect(threeCells(null)).toEqual([undefined, undefined, undefined]);
});

test("every estimate of a bout has its row, also those within others", () => {
  const estimate = (value: number) => ({ value, sd: 0.1, ci95: [value - 1, value + 1], n: 9 });
  const bout = {
    ...{ label: "Trot", rein: "left", start_s: 1, end_s: 9, strides: 10, confidence: 0.9 },
    tempo: estimate(79),
    suspension_s: null,
    duty_factor: { LF: estimate(0.42), RF: null, LH: estimate(0.43), RH: null },
    why: { suspension_s: "too slow" },
  } as unknown as Schemas["BoutSaid"];
  const rows = boutRows([bout, bout]);
  expect(rows.map((r) => r[6])).toEqual([
    ...["tempo", "duty_factor.LF", "duty_factor.LH"],
    ...["tempo", "duty_factor.LF", "duty_factor.LH"],
  ]);
  expect(rows[0]).toEqual([1, "Trot", "left", 1, 9, 10, "tempo", 79, 78, 80, 0.1, 9]);
  expect(rows.every((r) => r.length === BOUT_COLUMNS.length)).toBe(true);
});
