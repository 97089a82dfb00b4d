import { expect, it } from "vitest";

import type { Tag } from "./clip-store";
import { AIDS, movementWords, tagInShort } from "./tag-words";

const known = [{ id: "circle-20", says: "circle of 20 m" }];

it("says plans in words", () => {
  expect(movementWords("tempi-4x5", known)).toBe("changes every 4 strides, 5 of them");
  expect(movementWords("tempi-1", known)).toBe("changes every stride");
  expect(movementWords("drill-2x3", known)).toBe("drill 2 and 3 strides");
  expect(movementWords("spiral", known)).toBe("spiral");
});

it("gives every aid its own key", () => {
  expect(new Set(AIDS.map(([key]) => key)).size).toBe(AIDS.length);
});

it("says what was ridden, leaving out what was not said", () => {
  const tag: Tag = {
    id: "a",
    from_us: 0,
    to_us: 1,
    what: {
      kind: "ridden",
      gait: "canter",
      movement: "circle-20",
      rein: "left",
      ticks: [],
      words: "",
    },
  };
  expect(tagInShort(tag, known)).toBe("canter · circle of 20 m · left rein");
});
