import AxeBuilder from "@axe-core/playwright";
import { expect, test } from "@playwright/test";

import { open } from "./desk";

for (const scheme of ["light", "dark"] as const) {
  test(`no serious fault of access, ${scheme}`, async ({ page }) => {
    await page.emulateMedia({ colorScheme: scheme });
    const serious = async () => {
      const found = await new AxeBuilder({ page }).analyze();
      return found.violations
        .filter((v) => v.impact === "serious" || v.impact === "critical")
        .map((v) => `${v.id}: ${v.nodes.map((n) => n.html).join(" ")}`);
    };
    await page.goto("/");
    await page.getByRole("button", { name: "Add a horse" }).click();
    await page
      .getByRole("button", { name: /session/ })
      .first()
      .click();
    expect(await serious()).toEqual([]);
    await open(page, "Kiebitz", "kiebitz-walk");
    expect(await serious()).toEqual([]);
    await page.getByRole("tab", { name: "figures" }).click();
    expect(await serious()).toEqual([]);
    await page.keyboard.press("?");
    await expect(page.getByRole("dialog")).toBeVisible();
    expect(await serious()).toEqual([]);
  });
}
