import { expect, it } from "vitest";

import { actionOf, KEYS, keyOf } from "./keys";

const press = (key: string, more: Partial<KeyboardEvent> = {}) =>
  actionOf({
    key,
    shiftKey: false,
    ctrlKey: false,
    metaKey: false,
    altKey: false,
    ...more,
  } as KeyboardEvent);

it("lays the right hand on the hooves and the left on time", () => {
  expect(press("k")).toEqual({ do: "limb", limb: "RH" });
  expect(press("K", { shiftKey: true })).toEqual({ do: "lift", limb: "RH" });
  expect(press("d")).toEqual({ do: "step", by: 1 });
  expect(press(" ")).toEqual({ do: "play" });
  expect(press("?", { shiftKey: true })).toEqual({ do: "help" });
  expect(keyOf("LF")).toBe("U");
});

it("leaves the browser's own combinations alone", () => {
  expect(press("d", { ctrlKey: true })).toBeUndefined();
  expect(press("k", { metaKey: true })).toBeUndefined();
});

it("gives every key one meaning", () => {
  const all = KEYS.flatMap((row) => row.keys);
  expect(new Set(all).size).toBe(all.length);
});
