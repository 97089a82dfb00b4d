import { readFile } from "node:fs/promises";

import { expect, type Page, test } from "@playwright/test";

import { choose } from "./desk";

/** Opens a horse's record from the yard, as a coach comes to it. */
async function open(page: Page, horse: string) {
  await page.goto("/");
  await page.getByRole("link", { name: horse, exact: true }).first().click();
  await expect(page.getByRole("heading", { level: 1 })).toBeVisible();
}

/** What a click sends to the disk, as text. */
async function taken(page: Page, name: string | RegExp) {
  const [file] = await Promise.all([
    page.waitForEvent("download"),
    page.getByRole("button", { name }).first().click(),
  ]);
  return { name: file.suggestedFilename(), text: await readFile(await file.path(), "utf8") };
}

test("a horse’s record answers: better than last time, on which rein, how sure", async ({
  page,
}) => {
  await open(page, "Priel");
  await expect(page.getByRole("heading", { level: 1 })).toContainText(
    "rhythm and answer to the aid get better over 12 sessions",
  );
  const against = page.getByRole("region", { name: "This time against earlier" });
  await expect(against).toContainText("Against the last time, like conditions:");
  await expect(against).toContainText("is better than 19 September 2026 in rhythm (1.");
  await against.getByRole("button", { name: /Every figure/ }).click();
  await expect(against.getByRole("row")).toHaveCount(8);

  // The card down to the strides: the mark's curve, the coach's own mark, the bouts.
  await page.getByRole("button", { name: /^Tempo: where/ }).click();
  const mark = page.getByRole("textbox", { name: "Your own mark for Tempo, 21 Nov" });
  const card = page.getByRole("table", { name: /Gait card/ });
  const tempo = card.getByRole("row", { name: /^Tempo/ }).first();
  await mark.fill("7,5");
  await mark.press("Enter");
  await expect(tempo).toContainText("7.5");
  await expect(page.getByText(/^You mark 1\.\d lower than the curves/)).toBeVisible();
  await mark.fill("12");
  await mark.press("Enter");
  await expect(page.getByRole("alert")).toContainText("between 0 and 10");
  await mark.fill("");
  await mark.press("Enter");
  await expect(tempo).not.toContainText("7.5");

  // Tables and drawings go along as files that other programs read.
  const gaps = await taken(page, "Save Priel-trot-right-less-left as CSV");
  const lines = gaps.text.trim().split("\r\n");
  expect(lines).toHaveLength(13);
  expect(lines[0]).toMatch(/^date,regularity,regularity_lo,regularity_hi,tempo/);
  expect(lines[1]).toMatch(/^2026-09-05,-?\d/);
  const plot = await taken(page, "Save Priel-tempo as SVG");
  expect(plot.name).toBe("Priel-tempo.svg");
  expect(plot.text).toMatch(/^<svg[^>]* xmlns="http:\/\/www\.w3\.org\/2000\/svg"/);
  expect(plot.text).not.toContain("var(");

  await page
    .getByRole("link", { name: /left rein, / })
    .first()
    .click();
  await expect(page).toHaveURL(/\/clips\/\d+\?at=/);
});

test("what the coach says of a horse stays, and stands in the yard", async ({ page }) => {
  await open(page, "Kiebitz");
  await page.getByRole("button", { name: "Change the card" }).click();
  const form = page.getByRole("dialog");
  await form.getByRole("textbox", { name: "Born" }).fill("2012");
  await choose(page, form.getByRole("combobox", { name: "Degree of collection" }), /^second/);
  await form.getByRole("textbox", { name: "Height at the withers" }).fill("400");
  await form.getByRole("textbox", { name: /What to mind/ }).fill("Looks at the hedge.");
  await form.getByRole("button", { name: "Save" }).click();
  await expect(form.getByRole("alert")).toContainText("0.5 and 2.5 m");
  await form.getByRole("textbox", { name: "Height at the withers" }).fill("166");
  await form.getByRole("button", { name: "Save" }).click();
  await expect(form).toBeHidden();
  await expect(page.getByText("born 2012 · second degree of collection")).toBeVisible();
  await page.getByRole("link", { name: "Yard" }).click();
  await expect(page.getByText("Looks at the hedge.")).toBeVisible();
});

test("a movement beside straight work, footfalls locked without footage", async ({ page }) => {
  await open(page, "Tinne");
  await expect(page.getByText("The card says left, and so do the figures.")).toBeVisible();
  const movements = page.getByRole("region", { name: "Movements" });
  await expect(movements).toContainText("met 24 times (left rein 12, right 12)");
  await expect(movements).toContainText(/left rein: tempo \d\.\d % less than straight/);
  await movements.getByRole("link", { name: "beside straight" }).first().click();
  await expect(page.getByText(/as ridden, speed/).first()).toBeVisible();

  // No film: the hooves tell. Stride for stride the same limbs stand on both sides.
  const boards = page.getByRole("img", { name: /^(On the ground|In the air)/ });
  await expect(boards).toHaveCount(2);
  const at = (side: string) => page.getByTestId(`${side}-frame`);
  let alike = 0;
  for (let k = 0; k < 20; k++) {
    const [a, b] = await Promise.all([
      boards.nth(0).getAttribute("aria-label"),
      boards.nth(1).getAttribute("aria-label"),
    ]);
    alike += Number(a === b);
    await page.keyboard.press("Shift+D");
  }
  expect(alike).toBeGreaterThanOrEqual(16);
  const before = Number(await at("first").textContent());
  await page.keyboard.press("s");
  await expect
    .poll(async () => Number(await at("first").textContent()))
    .toBeGreaterThan(before + 20);
  await page.keyboard.press("s");
  const stood = await at("second").textContent();
  await page.waitForTimeout(200);
  expect(await at("second").textContent()).toBe(stood);
});

test("a period’s report is one page of paper", async ({ page }) => {
  await open(page, "Tinne");
  const way = await page.getByRole("link", { name: "for the coach" }).getAttribute("href");
  await page.goto(way ?? "");
  await page.evaluate(() => document.fonts.ready);
  expect(await page.evaluate(() => document.fonts.check("12px 'Alegreya Sans'"))).toBe(true);
  const paper = (await page.pdf({ format: "A4" })).toString("latin1");
  expect(paper.match(/\/Count (\d+)/)?.[1]).toBe("1");
  // Ink on paper: greys only.
  const colours = await page.evaluate(() =>
    Array.from(document.querySelectorAll("svg *")).flatMap((e) =>
      ["fill", "stroke"].map((a) => e.getAttribute(a)).filter((c) => c?.startsWith("#")),
    ),
  );
  expect(colours.length).toBeGreaterThan(20);
  for (const c of new Set(colours)) {
    const digits = c?.slice(1) ?? "";
    expect(new Set(digits.length === 3 ? digits : (digits.match(/../g) ?? [])).size).toBe(1);
  }
});
