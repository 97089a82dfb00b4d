import { expect, type Page, test } from "@playwright/test";

import { lottery } from "../specs/painted";

/** Times of random seeks from setting the time to the frame on screen, ms. */
async function seeks(page: Page, source: string, n: number): Promise<number[]> {
  await page.evaluate(async (src) => {
    document.body.innerHTML = '<video muted width="1280"></video>';
    const video = document.querySelector("video");
    if (!video) return;
    const ready = new Promise((done) => video.addEventListener("loadeddata", done));
    video.src = src;
    await ready;
  }, source);
  const length = await page.evaluate(() => document.querySelector("video")?.duration ?? 0);
  const random = lottery(4);
  const out: number[] = [];
  for (let k = 0; k < n; k++) {
    const target = (random(10_000) / 10_000) * length * 0.98;
    out.push(
      await page.evaluate(async (t) => {
        const video = document.querySelector("video");
        if (!video) return NaN;
        const shown = new Promise<number>((done) => {
          video.requestVideoFrameCallback(() => done(performance.now()));
        });
        const began = performance.now();
        video.currentTime = t;
        return (await shown) - began;
      }, target),
    );
  }
  return out.sort((a, b) => a - b);
}

test("random access on the proxy against the original", async ({ page }) => {
  test.setTimeout(600_000);
  for (const { name, proxy, original } of JSON.parse(process.env.UMLAUF_BENCH ?? "[]") as {
    name: string;
    proxy: string;
    original: string;
  }[]) {
    await page.goto("/mark.svg");
    await page.goto("/");
    const fast = await seeks(page, proxy, 100);
    const slow = await seeks(page, original, 40);
    const at = (list: number[], share: number) => list[Math.floor(list.length * share)] ?? NaN;
    console.log(
      `${name}: seek and show on the proxy median ${at(fast, 0.5).toFixed(0)} ms, ` +
        `95 % ${at(fast, 0.95).toFixed(0)} ms (aims 50, 120); on the original ` +
        `median ${at(slow, 0.5).toFixed(0)} ms: ${(at(slow, 0.5) / at(fast, 0.5)).toFixed(1)} times as long`,
    );
    expect(fast.length).toBe(100);
  }
});
