import { expect, test } from "@playwright/test";

import { figure, type Footfall, mark, open, truth } from "./desk";

/** Mean stride of the strides that the desk averages: all but the first and the last. */
function steadyTempo(footfalls: Footfall[], firstHind: string): number {
  const starts = footfalls.filter((f) => f.limb === firstHind).map((f) => f.on);
  const steady = starts.slice(1, -1);
  return (60 * (steady.length - 1)) / ((steady.at(-1) ?? 0) - (steady[0] ?? 0));
}

test("a trot timed by keys reads as trot at the horse's own tempo", async ({ page }) => {
  await open(page, "Distel", "distel-trot");
  await expect(page.getByRole("heading", { level: 1 })).toContainText("No footfall marked yet");
  const all = truth("distel-trot");
  const nineStrides = all.filter((f) => f.on < 7.3);
  await mark(page, nineStrides, 120);

  await expect(page.getByRole("heading", { level: 1 })).toContainText(/^Trot at \d/);
  const tempo = await figure(page, "Tempo");
  const first = nineStrides.find((f) => f.limb.endsWith("H"))?.limb ?? "";
  const true_tempo = steadyTempo(nineStrides, first);
  expect(nineStrides.filter((f) => f.limb === first).length).toBeGreaterThanOrEqual(9);
  expect(tempo.half).toBeGreaterThan(0);
  expect(tempo.half).toBeLessThan(2);
  // The interval is of this horse's trot (60 / 0.756 s); the strides ridden lie within reading.
  expect(Math.abs(tempo.value - 60 / 0.756)).toBeLessThan(tempo.half);
  expect(Math.abs(tempo.value - true_tempo)).toBeLessThan(0.3);

  await page.reload();
  await expect(page.getByRole("heading", { level: 1 })).toContainText(/^Trot at \d/);
  expect(await figure(page, "Tempo")).toEqual(tempo);

  // Undo reaches back over the reload, mark by mark, and forth again.
  const count = page.getByRole("application");
  await expect(count).toHaveAttribute("aria-label", new RegExp(`^${nineStrides.length} foot`));
  await page.keyboard.press("z");
  await expect(count).toHaveAttribute("aria-label", new RegExp(`^${nineStrides.length - 1} foot`));
  await page.keyboard.press("Shift+Z");
  await expect(count).toHaveAttribute("aria-label", new RegExp(`^${nineStrides.length} foot`));
});

test("a canter timed by keys reads as left lead with its split", async ({ page }) => {
  await open(page, "Priel", "priel-canter");
  const all = truth("priel-canter").filter((f) => f.on < 6.0);
  await mark(page, all, 120);
  await expect(page.getByRole("heading", { level: 1 })).toContainText("Canter on the left lead");
  const split = await figure(page, "Split of the diagonal");
  const rf = all.filter((f) => f.limb === "RF").map((f) => f.on);
  const lh = all.filter((f) => f.limb === "LH").map((f) => f.on);
  const gaps = rf.map((on, k) => (on - (lh[k] ?? NaN)) * 1000).slice(1, -1);
  const mean = gaps.reduce((a, b) => a + b, 0) / gaps.length;
  expect(Math.abs(split.value - mean)).toBeLessThan(split.half + 0.5);
  await page.reload();
  expect(await figure(page, "Split of the diagonal")).toEqual(split);
});

test("a footfall nudged by a frame is recomputed, and back again", async ({ page }) => {
  await open(page, "Kiebitz", "kiebitz-walk");
  const before = await figure(page, "Stance, left fore");
  // The left fore of the second stride: the first one stays out of the means.
  for (let k = 0; k < 6; k++) await page.keyboard.press("e");
  for (let k = 0; k < 12; k++) await page.keyboard.press("m");
  await expect.poll(() => figure(page, "Stance, left fore")).not.toEqual(before);
  for (let k = 0; k < 12; k++) await page.keyboard.press("n");
  await expect.poll(() => figure(page, "Stance, left fore")).toEqual(before);
});

test("marks made while the server is away are kept and sent again", async ({ page }) => {
  await open(page, "Kiebitz", "kiebitz-walk");
  const marks = page.getByRole("application");
  const had = Number.parseInt((await marks.getAttribute("aria-label")) ?? "", 10);
  await page.route("**/api/clips/*/edits", (route) => route.abort());
  await page.keyboard.press("u");
  await expect(page.getByText("1 change not saved yet")).toBeVisible();
  await page.reload();
  await expect(page.getByText("1 change not saved yet")).toBeVisible();
  await page.unroute("**/api/clips/*/edits");
  await expect(page.getByText("all marks saved")).toBeVisible();
  await expect(marks).toHaveAttribute("aria-label", new RegExp(`^${had + 1} foot`));
  await page.keyboard.press("z");
  await expect(marks).toHaveAttribute("aria-label", new RegExp(`^${had} foot`));
});
