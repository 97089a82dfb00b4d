import { expect, test } from "@playwright/test";

import { frame, settled, shown } from "./desk";
import { lottery, painted } from "./painted";

test("single-frame steps show exactly the neighbour, each way", async ({ page }) => {
  const file = process.env.UMLAUF_COUNTING_CLIP ?? "";
  await page.goto("/");
  await page.getByRole("button", { name: "Add a horse" }).click();
  await page.getByLabel("Horse’s name").fill("Tinne");
  await page.getByRole("button", { name: "Save" }).click();
  await page.getByLabel("What was ridden").fill("A counting clip");
  await page.getByRole("button", { name: "Add session" }).click();
  await page.getByLabel("Footage files", { exact: true }).setInputFiles(file);
  await page.getByRole("link", { name: /^counting/ }).click();
  await shown(page);

  const times: number[] = [];
  const step = async (key: string) => {
    await settled(page);
    const from = await frame(page);
    const want = from + (key === "d" ? 1 : -1);
    const took = await page.evaluate(async (pressed) => {
      const video = document.querySelector("video");
      if (!video) return NaN;
      const arrived = new Promise<number>((done) => {
        video.requestVideoFrameCallback(() => done(performance.now()));
      });
      const began = performance.now();
      window.dispatchEvent(new KeyboardEvent("keydown", { key: pressed }));
      return (await arrived) - began;
    }, key);
    times.push(took);
    await expect.poll(() => frame(page)).toBe(want);
    // The painted number counts from 0, the desk from 1.
    expect(await painted(page)).toBe(want - 1);
  };

  const random = lottery(20_261);
  for (let k = 0; k < 30; k++) {
    const strip = page.getByRole("application");
    const box = await strip.boundingBox();
    const x = 40 + random((box?.width ?? 900) - 80);
    await strip.click({ position: { x, y: 160 } });
    await settled(page);
    const here = await frame(page);
    await expect.poll(() => painted(page)).toBe(here - 1);
    await step("d");
    await step("a");
    await step("a");
  }
  times.sort((a, b) => a - b);
  const at = (share: number) => (times[Math.floor(times.length * share)] ?? NaN).toFixed(1);
  console.log(`key to shown frame: median ${at(0.5)} ms, 95 % ${at(0.95)} ms of ${times.length}`);
});

test("a horse added while the yard is still being read stands in it", async ({ page }) => {
  let answered = 0;
  await page.route("**/api/yard", async (route) => {
    // The first answer is of before the horse, and comes after it.
    const answer = await route.fetch();
    if (answered++ === 0) await new Promise((done) => setTimeout(done, 3000));
    await route.fulfill({ response: answer }).catch(() => undefined);
  });
  await page.goto("/");
  await page.getByRole("button", { name: "Add a horse" }).click();
  await page.getByLabel("Horse’s name").fill("Watt");
  await page.getByRole("button", { name: "Save" }).click();
  await expect(page.getByRole("link", { name: "Watt", exact: true })).toBeVisible();
  await expect(page.getByLabel("What was ridden")).toBeVisible();
});

test("a file that is not footage is refused in words and leaves nothing", async ({ page }) => {
  await page.goto("/");
  const row = page.getByRole("listitem").filter({ hasText: "Kiebitz" }).first();
  await row.getByRole("button", { name: /session/ }).click();
  await page.getByLabel("Footage files", { exact: true }).setInputFiles({
    name: "letter.mp4",
    mimeType: "video/mp4",
    buffer: Buffer.from("Dear coach, this is not a video."),
  });
  await expect(page.getByRole("alert")).toContainText("not a video that can be read");
  await page.reload();
  await expect(page.getByText("letter")).toHaveCount(0);
  expect(await (await page.request.get("/api/uploads")).json()).toEqual([]);
});
