import { expect, test } from "@playwright/test";

import { choose, open, settled, stepTo } from "./desk";

test("two windows on one clip lose no mark", async ({ page, context }) => {
  await open(page, "Kiebitz", "kiebitz-walk");
  const other = await context.newPage();
  await open(other, "Kiebitz", "kiebitz-walk");
  const count = async (p: typeof page) =>
    Number.parseInt((await p.getByRole("application").getAttribute("aria-label")) ?? "", 10);
  const had = await count(page);

  // Each marks something of its own, at the same time.
  await stepTo(page, 4);
  await stepTo(other, 7);
  await Promise.all([page.keyboard.press("u"), other.keyboard.press("i")]);
  await expect.poll(() => count(page), { timeout: 10_000 }).toBe(had + 2);
  await expect.poll(() => count(other), { timeout: 10_000 }).toBe(had + 2);
  await expect(other.getByText("all marks saved")).toBeVisible();

  // Both move the same footfall: the first stands, the other is told, nothing is lost.
  await page.bringToFront();
  await page.keyboard.press("q");
  await page.keyboard.press("e");
  await settled(page);
  await page.route("**/revision", (route) => route.abort());
  await other.route("**/revision", (route) => route.abort());
  await other.keyboard.press("q");
  await other.keyboard.press("q");
  await page.keyboard.press("q");
  await settled(page);
  await settled(other);
  await page.keyboard.press("m");
  await expect(page.getByText("all marks saved")).toBeVisible();
  await other.keyboard.press("n");
  await expect(other.getByText(/changed|someone|elsewhere/i).first()).toBeVisible();
  expect(await count(other)).toBe(had + 2);

  // The move and both marks are taken back, one at a time: the move leaves as many as there were.
  for (const left of [had + 2, had + 1, had]) {
    await page.keyboard.press("z");
    await expect.poll(() => count(page)).toBe(left);
    await expect(page.getByText("all marks saved")).toBeVisible();
  }
});

test("two windows that change different settings keep both", async ({ page, context }) => {
  await open(page, "Kiebitz", "kiebitz-walk");
  const other = await context.newPage();
  await open(other, "Kiebitz", "kiebitz-walk");
  const rein = (p: typeof page) => p.getByRole("combobox", { name: "Rein" });
  const slow = (p: typeof page) => p.getByRole("combobox", { name: "Slow motion" });
  const had = (await rein(page).textContent()) ?? "";
  const [word, lead] = had.includes("left") ? ["right rein", "right"] : ["left rein", "left"];
  // Neither window knows of the other's change when it makes its own.
  for (const p of [page, other]) await p.route("**/revision", (route) => route.abort());
  await choose(page, rein(page), word);
  await expect(page.getByText("all marks saved")).toBeVisible();
  await expect(slow(other)).toContainText("normal speed");
  await choose(other, slow(other), "slow motion 2×");
  await expect(other.getByText("all marks saved")).toBeVisible();
  await expect(rein(other)).toContainText(lead);
  await page.reload();
  await expect(rein(page)).toContainText(word);
  await expect(slow(page)).toContainText("slow motion 2×");
  await page.keyboard.press("z");
  await expect(slow(page)).toContainText("normal speed");
  await expect(rein(page)).toContainText(word);
  await page.keyboard.press("z");
  await expect(rein(page)).toContainText(had);
  await expect(page.getByText("all marks saved")).toBeVisible();
});

test("what the server fails at is set aside, and the rest is saved", async ({ page }) => {
  await open(page, "Kiebitz", "kiebitz-walk");
  const count = async () =>
    Number.parseInt((await page.getByRole("application").getAttribute("aria-label")) ?? "", 10);
  const had = await count();
  const fails = { status: 500, contentType: "application/problem+json" };
  const body = JSON.stringify({ code: "failed", title: "", status: 500, detail: "It broke." });
  await page.route("**/edits", (route) => route.fulfill({ ...fails, body }), { times: 3 });
  await stepTo(page, 4);
  await page.keyboard.press("u");
  await stepTo(page, 7);
  await page.keyboard.press("i");
  await expect(page.getByText(/1 change could not be saved. It broke./)).toBeVisible();
  // Nothing of it is lost by a reload, and it is offered again.
  await page.reload();
  await expect(page.getByText("all marks saved")).toBeVisible();
  expect(await count()).toBe(had + 2);
  for (const left of [had + 1, had]) {
    await page.keyboard.press("z");
    await expect.poll(count).toBe(left);
  }
  await expect(page.getByText("all marks saved")).toBeVisible();
});

test("aids, letters and notes by keys, the gait as the coach says it", async ({ page }) => {
  await open(page, "Kiebitz", "kiebitz-walk");
  await stepTo(page, 40);
  await page.keyboard.press("g");
  await page.keyboard.press("t");
  await stepTo(page, 60);
  await page.keyboard.press("g");
  await page.keyboard.press("l");
  await expect(page.getByRole("dialog")).toContainText("letter");
  await page.keyboard.press("b");
  await page.keyboard.press("t");
  await page.getByLabel("Note").fill("lighter here");
  await page.keyboard.press("Enter");
  await page.getByRole("tab", { name: "marked" }).click();
  const list = page.getByRole("tabpanel", { name: "marked" });
  await expect(list.getByText("trot", { exact: true })).toHaveCount(2);
  await expect(list.getByText("lighter here")).toBeVisible();
  await page.keyboard.press("b");
  const gait = page.getByRole("combobox", { name: "Gait", exact: true });
  await choose(page, gait, "flat walk (gaited)");
  await page.getByLabel("swinging back").check();
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { level: 2 })).toContainText("Flat walk");
  await page.reload();
  await expect(page.getByRole("heading", { level: 2 })).toContainText("Flat walk");
  for (let k = 0; k < 5; k++) {
    await page.keyboard.press("z");
    await expect(page.getByText("all marks saved")).toBeVisible();
  }
  await page.getByRole("tab", { name: "marked" }).click();
  await expect(list.getByText(/Nothing is marked beside/)).toBeVisible();
});

test("a key is changed, kept, and given back", async ({ page }) => {
  await open(page, "Kiebitz", "kiebitz-walk");
  await page.keyboard.press("?");
  await page.getByRole("button", { name: "Key for: a frame on", exact: true }).click();
  await page.keyboard.press(";");
  await page.getByRole("button", { name: "Close", exact: true }).click();
  await page.reload();
  await expect(page.getByTestId("frame")).toContainText("frame 1/");
  await page.keyboard.press(";");
  await expect(page.getByTestId("frame")).toContainText("frame 2/");
  await page.keyboard.press("?");
  await page.getByRole("button", { name: "All keys as they came" }).click();
  await page.getByRole("button", { name: "Close", exact: true }).click();
  await page.keyboard.press("d");
  await expect(page.getByTestId("frame")).toContainText("frame 3/");
});
