import { mkdtemp, rm, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";

import { expect, test } from "@playwright/test";

test("the yard goes out as a ZIP and comes back on an empty yard’s page", async ({
  page,
}, info) => {
  const empty = process.env.UMLAUF_EMPTY;
  test.skip(!empty, "no second yard");
  // What is there cannot be written over.
  await page.goto("/setup");
  const along = page.getByRole("region", { name: "Take the yard along" });
  await expect(along).toContainText("only where there is no yard yet");
  await expect(along.getByRole("button", { name: /Put a yard back/ })).toHaveCount(0);
  const link = await along.getByRole("link", { name: "Download the yard" }).getAttribute("href");
  const zip = info.outputPath("yard.umlauf.zip");
  await writeFile(zip, await (await page.request.get(link ?? "")).body());
  const heads = async () => {
    await expect(page.getByRole("heading", { level: 2 }).first()).toBeVisible();
    return page.getByRole("heading", { level: 2 }).allInnerTexts();
  };
  await page.goto("/");
  const horses = await heads();

  // A stick with its backups, and what is said where there is none.
  const stick = await mkdtemp(join(tmpdir(), "stick-"));
  await page.goto("/setup");
  const backups = page.getByRole("region", { name: "Backups" });
  await expect(backups.getByRole("status")).toContainText("No backups are made");
  await backups.getByLabel("Folder for backups").fill(join(stick, "nowhere"));
  await backups.getByRole("button", { name: "Save" }).click();
  await expect(backups.getByRole("alert")).toContainText("there is no folder");
  await backups.getByLabel("Folder for backups").fill(stick);
  await backups.getByRole("button", { name: "Save" }).click();
  await expect(backups.getByRole("status")).toHaveText("No backup has been made yet.");
  await backups.getByRole("button", { name: "Back up now" }).click();
  await expect(backups.getByRole("status")).toContainText("The last good backup is of", {
    timeout: 60_000,
  });

  await page.goto(`${empty}/setup`);
  const file = page.getByLabel("A yard’s ZIP");
  await file.setInputFiles({
    ...{ name: "letter.zip", mimeType: "application/zip" },
    buffer: Buffer.from("no ZIP at all"),
  });
  await expect(page.getByRole("alert")).toContainText("this is no ZIP");
  // Three actions on an empty machine: Setup, the folder, the button.
  await page.getByLabel("Or the folder of its backups").fill(stick);
  await page.getByRole("button", { name: "Put it back from there" }).click();
  await expect(page.getByRole("status").filter({ hasText: "The yard is back" })).toContainText(
    /6 horses, \d+ clips, \d+ films/,
    { timeout: 60_000 },
  );
  await page.goto(`${empty}/`);
  expect((await heads()).filter((h) => horses.includes(h)).length).toBeGreaterThanOrEqual(6);
  await page.getByRole("link", { name: "Distel", exact: true }).first().click();
  await expect(page.getByRole("heading", { level: 1 })).toContainText("After 49 days off");

  // One horse of it, beside the one that is there; on this machine the stick is another yard's.
  await page.goto(`${empty}/setup`);
  await backups.getByLabel("Folder for backups").fill(stick);
  await backups.getByRole("button", { name: "Save" }).click();
  const one = page.getByRole("region", { name: "One horse from a backup" });
  await one.getByRole("combobox", { name: "Backup of" }).click();
  await page.getByRole("option").nth(1).click();
  const distel = one.getByRole("listitem").filter({ hasText: "Distel" });
  await expect(distel).toContainText("sessions, the last on", { timeout: 60_000 });
  await distel.getByRole("button", { name: "Bring back" }).click();
  await expect(one.getByRole("status")).toContainText(/Distel, as of .* is back: \d+ clips/, {
    timeout: 60_000,
  });
  await one.getByRole("link", { name: /Distel, as of/ }).click();
  await expect(page.getByRole("heading", { level: 1 })).toContainText("After 49 days off");
  await rm(stick, { recursive: true });
});
