import AxeBuilder from "@axe-core/playwright";
import { expect, type Page, test } from "@playwright/test";

import { open, shown } from "./desk";

/** Serious faults of what the page shows. */
async function faults(page: Page): Promise<string[]> {
  const found = await new AxeBuilder({ page }).analyze();
  return found.violations
    .filter((v) => v.impact === "serious" || v.impact === "critical")
    .map((v) => `${v.id}: ${v.nodes.map((n) => n.html).join(" ")}`);
}

for (const scheme of ["light", "dark"] as const) {
  test(`no serious fault of access, ${scheme}`, async ({ page }) => {
    await page.emulateMedia({ colorScheme: scheme });
    const serious = () => faults(page);
    await page.goto("/");
    await page.getByRole("button", { name: "Add a horse" }).click();
    await page
      .getByRole("button", { name: /session/ })
      .first()
      .click();
    expect(await serious()).toEqual([]);
    await page
      .getByRole("link", { name: /at a glance/ })
      .first()
      .click();
    await expect(page.getByRole("heading", { name: "Felt" })).toBeVisible();
    expect(await serious()).toEqual([]);
    for (const screen of ["/filming", "/setup", "/arena"]) {
      await page.goto(screen);
      await expect(page.getByRole("heading", { level: 1 })).not.toContainText("Opening");
      expect(await serious()).toEqual([]);
    }
    await page.goto("/");
    await page.getByRole("link", { name: "Tinne", exact: true }).first().click();
    await page.getByRole("button", { name: /^Rhythm.*where this comes from/ }).click();
    expect(await serious()).toEqual([]);
    await page.getByRole("button", { name: /^Every figure against/ }).click();
    expect(await serious()).toEqual([]);
    await page.getByRole("button", { name: "Change the card" }).click();
    expect(await serious()).toEqual([]);
    await page.keyboard.press("Escape");
    await expect(page.getByRole("dialog")).toHaveCount(0);
    await page.getByRole("link", { name: "left, right" }).first().click();
    await expect(page.getByRole("heading", { name: "Differences" })).toBeVisible();
    expect(await serious()).toEqual([]);
  });

  test(`no serious fault of access on the desks, ${scheme}`, async ({ page }) => {
    await page.emulateMedia({ colorScheme: scheme });
    const serious = () => faults(page);
    await open(page, "Kiebitz", "kiebitz-walk");
    for (const tab of ["findings", "figures", "work", "marked", "clip"]) {
      await page.getByRole("tab", { name: tab }).click();
      expect(await serious()).toEqual([]);
    }
    for (const key of ["?", "b", "Shift+G", "l", "t"]) {
      await page.keyboard.press(key);
      await expect(page.getByRole("dialog")).toBeVisible();
      expect(await serious()).toEqual([]);
      await page.keyboard.press("Escape");
      await expect(page.getByRole("dialog")).toHaveCount(0);
    }
    await page.goto(`${page.url()}/ground`);
    for (const tab of ["Found", "Scale", "Hooves", "Still"]) {
      await page.getByRole("tab", { name: new RegExp(`^${tab}`) }).click();
      expect(await serious()).toEqual([]);
    }
    await page.goBack();
    await shown(page);
    await page.keyboard.press("c");
    await page.waitForTimeout(500);
    expect(await serious()).toEqual([]);
  });
}
