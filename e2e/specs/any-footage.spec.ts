import { expect, test } from "@playwright/test";

import { frame, shown } from "./desk";
import { lottery, painted } from "./painted";

type File = { clip: number; name: string; rotation: number; first: number };

const SET = JSON.parse(process.env.UMLAUF_SET ?? "[]") as File[];

for (const file of SET) {
  test(`30 random steps in ${file.name} are exact`, async ({ page }) => {
    await page.goto(`/clips/${file.clip}`);
    await shown(page);
    const random = lottery(file.clip + 7);
    // To some place in the middle first, then step by step either way.
    for (let k = 0; k < 10; k++) await page.keyboard.press("d");
    await expect.poll(() => frame(page)).toBe(11);
    for (let k = 0; k < 30; k++) {
      const here = await frame(page);
      const forward = here < 5 || (here < 35 && random(2) === 1);
      await page.keyboard.press(forward ? "d" : "a");
      const want = here + (forward ? 1 : -1);
      await expect.poll(() => frame(page), { intervals: [5, 10, 20, 40] }).toBe(want);
      expect(await painted(page, file.rotation)).toBe(want - 1 + file.first);
    }
  });
}
