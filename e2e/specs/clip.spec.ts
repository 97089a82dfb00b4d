import { expect, test } from "@playwright/test";

import { choose, figure, open, shown } from "./desk";

type File = { clip: number; name: string };

const SET = JSON.parse(process.env.UMLAUF_SET ?? "[]") as File[];

test("slow motion is asked about once, with its evidence, and can be undone", async ({ page }) => {
  const slow = SET.find((f) => f.name === "slow-motion.mp4");
  await page.goto(`/clips/${slow?.clip}`);
  await shown(page);
  const question = page.getByText("it filmed 240 frames a second and stored 30");
  await expect(question).toBeVisible();
  await expect(page.getByText("footfalls known to ±9.6 ms")).toBeVisible();
  await page.getByRole("button", { name: "Yes, slow motion 8×" }).click();
  await expect(question).toBeHidden();
  await expect(page.getByText("footfalls known to ±1.2 ms")).toBeVisible();
  await page.reload();
  await expect(page.getByText("footfalls known to ±1.2 ms")).toBeVisible();
  await expect(question).toBeHidden();
  await page.keyboard.press("z");
  await expect(question).toBeVisible();
});

test("a mirror image swaps the sides and back, a trim leaves marks out, and both can be undone", async ({
  page,
}) => {
  await open(page, "Kiebitz", "kiebitz-walk");
  const count = page.getByRole("application");
  const marks = Number.parseInt((await count.getAttribute("aria-label")) ?? "", 10);
  const left = await figure(page, "Stance, left fore");
  const right = await figure(page, "Stance, right fore");
  expect(left).not.toEqual(right);
  await page.getByRole("tab", { name: "clip" }).click();
  await page.getByLabel(/mirror image/).check();
  await expect.poll(() => figure(page, "Stance, left fore")).toEqual(right);
  expect(await figure(page, "Stance, right fore")).toEqual(left);
  await page.keyboard.press("z");
  await expect.poll(() => figure(page, "Stance, left fore")).toEqual(left);

  const heading = page.getByRole("heading", { level: 1 });
  const all = await heading.textContent();
  for (let k = 0; k < 12; k++) await page.keyboard.press("e");
  await page.keyboard.press("1");
  await expect(heading).not.toHaveText(all ?? "");
  await expect(count).toHaveAttribute("aria-label", new RegExp(`^${marks} foot`));
  await page.keyboard.press("z");
  await expect(heading).toHaveText(all ?? "");
});

test("new footage is sorted to its horse and day, removed and brought back", async ({ page }) => {
  await page.goto("/");
  const horse = page.getByLabel("Horse in slow-motion");
  await choose(page, horse, "Priel");
  await expect(page.getByRole("textbox", { name: "Day of slow-motion" })).toHaveValue("2026-11-20");
  const place = page.locator("div").filter({ has: horse }).last();
  await place.getByRole("button", { name: "Put there" }).click();
  await expect(horse).toBeHidden();
  const row = page.getByRole("listitem").filter({ hasText: "Priel" }).first();
  await row.getByRole("button", { name: /sessions$/ }).click();
  await expect(row.getByRole("heading", { name: "20 November 2026" })).toBeVisible();
  await row.getByRole("button", { name: "Remove slow-motion" }).click();
  const link = row.getByRole("link", { name: /^slow-motion/ });
  await expect(link).toBeHidden();
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(link).toBeVisible();
});

test("setup and filming say what they are for, without a serious fault of access", async ({
  page,
}) => {
  const { default: AxeBuilder } = await import("@axe-core/playwright");
  for (const [path, words] of [
    ["/setup", /footage takes .* on this machine/],
    ["/filming", /frames a second or more/],
  ] as const) {
    await page.goto(path);
    await expect(page.getByRole("heading", { level: 1 })).toHaveText(words);
    const found = await new AxeBuilder({ page }).analyze();
    const serious = found.violations.filter((v) =>
      ["serious", "critical"].includes(v.impact ?? ""),
    );
    expect(serious.map((v) => v.id + v.nodes.map((n) => n.html).join())).toEqual([]);
  }
  await page.getByRole("button", { name: /Flying changes/ }).click();
  await expect(page.getByRole("heading", { level: 1 })).toContainText("60 frames a second");
});
