import { expect, it } from "vitest";

import { GROUPS, KeyMap } from "./keys";

const press = (key: string, more: Partial<KeyboardEvent> = {}) =>
  ({
    key,
    shiftKey: false,
    ctrlKey: false,
    metaKey: false,
    altKey: false,
    ...more,
  }) as KeyboardEvent;

const rows = GROUPS.flatMap((g) => g.rows);
const keys = new KeyMap();

it("lays the right hand on the hooves and the left on time", () => {
  expect(keys.actionOf(press("k"))).toEqual({ do: "limb", limb: "RH" });
  expect(keys.actionOf(press("K", { shiftKey: true }))).toEqual({ do: "lift", limb: "RH" });
  expect(keys.actionOf(press("d"))).toEqual({ do: "step", by: 1 });
  expect(keys.actionOf(press(" "))).toEqual({ do: "play" });
  expect(keys.actionOf(press("?", { shiftKey: true }))).toEqual({ do: "help" });
  expect(keys.keyFor("LF")).toBe("U");
  expect(keys.limbOf(press("J", { shiftKey: true }))).toBe("LH");
});

it("leaves the browser's own combinations alone", () => {
  expect(keys.actionOf(press("d", { ctrlKey: true }))).toBeUndefined();
  expect(keys.actionOf(press("k", { metaKey: true }))).toBeUndefined();
});

it("gives every key one meaning, and every meaning one name", () => {
  const all = rows.flatMap((row) => row.keys);
  expect(new Set(all).size).toBe(all.length);
  expect(new Set(rows.map((r) => r.id)).size).toBe(rows.length);
});

it("changes a key, and who had it takes the other's", () => {
  const carry = rows.find((r) => r.id === "carry");
  if (!carry) throw new Error("no such row");
  const changed = new KeyMap(keys.with(carry, "U"));
  expect(changed.actionOf(press("u"))).toEqual({ do: "carry" });
  expect(changed.actionOf(press("c"))).toEqual({ do: "limb", limb: "LF" });
  const meanings = rows.flatMap((r) => changed.keysOf(r));
  expect(new Set(meanings).size).toBe(meanings.length);
});
