import { expect, it } from "vitest";

import { wheelInWords } from "./words";

it("says for those who do not see it when each hoof lands and how long all are up", () => {
  const stride = { at_s: null, on: [0.48, 0.26, 0.25, 0], off: [0.88, 0.66, 0.65, 0.4] };
  const words = wheelInWords({
    strides: [stride, stride],
    mean: stride,
    air: [[0.88, 0]],
    ideal: [0],
    leg_windows: [],
  });
  expect(words).toBe(
    "Stride wheel of 2 strides. Footfalls: right hind at 0 %, left hind at 25 %, " +
      "right fore at 26 %, left fore at 48 %. No hoof on the ground for 12 % of the stride.",
  );
});
