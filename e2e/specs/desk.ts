import { readFileSync } from "node:fs";

import { expect, type Locator, type Page } from "@playwright/test";

export type Footfall = { limb: string; on: number; off: number };

export const KEY: Record<string, string> = { LF: "u", RF: "i", LH: "j", RH: "k" };

/** The truth of a demo clip: when each hoof came down and left, s. */
export function truth(clip: string): Footfall[] {
  const text = readFileSync(new URL(`../../demo/${clip}.footfalls.csv`, import.meta.url), "utf8");
  return text
    .split("\n")
    .filter((l) => /^[LR][FH],/.test(l))
    .map((l) => l.split(","))
    .map(([limb, on, off]) => ({ limb: limb ?? "", on: Number(on), off: Number(off) }));
}

/** Chooses words of a list, as a hand does; of two that read alike the first. */
export async function choose(page: Page, list: Locator, words: string | RegExp): Promise<void> {
  await list.click();
  const exact = typeof words === "string";
  await page.getByRole("option", { name: words, exact }).first().click();
  await expect(page.getByRole("listbox")).toHaveCount(0);
}

/** Opens a clip of the yard by its name and waits for its first frame. */
export async function open(page: Page, horse: string, clip: string): Promise<void> {
  await page.goto("/");
  const row = page.getByRole("listitem").filter({ hasText: horse }).first();
  await row.getByRole("button", { name: /session/ }).click();
  await page.getByRole("link", { name: new RegExp(`^${clip}`) }).click();
  await shown(page);
}

/** Waits until the copy that steps fast is made and a frame is on screen. */
export async function shown(page: Page): Promise<void> {
  await expect(page.getByTestId("frame")).toBeVisible();
  await expect(page.getByText(/making a copy/i)).toHaveCount(0, { timeout: 90_000 });
  await expect
    .poll(() => page.evaluate(() => (document.querySelector("video")?.readyState ?? 0) >= 2))
    .toBe(true);
}

/** Takes back every edit of the open clip: a spec that is tried again begins where it began. */
export async function unmarked(page: Page): Promise<void> {
  const clip = page.url().split("/").pop() ?? "";
  for (;;) {
    const desk = (await (await page.request.get(`/api/clips/${clip}/desk`)).json()) as {
      can_undo: number;
      revision: number;
    };
    if (desk.can_undo === 0) break;
    const undone = await page.request.post(`/api/clips/${clip}/undo`, {
      data: { revision: desk.revision },
    });
    expect(undone.ok()).toBe(true);
  }
  await page.reload();
  await shown(page);
}

/** Waits until no frame is on its way to the screen. */
export async function settled(page: Page): Promise<void> {
  await expect(page.getByTestId("frame")).toHaveAttribute("aria-busy", "false");
}

/** Number of the frame that the desk says is on screen. */
export async function frame(page: Page): Promise<number> {
  const text = await page.getByTestId("frame").textContent();
  return Number(/frame\s*(\d+)/.exec(text ?? "")?.[1]);
}

/** Steps by keys to a frame, counted from 1. */
export async function stepTo(page: Page, target: number): Promise<void> {
  let here = await frame(page);
  while (here !== target) {
    const by = target - here;
    const key = Math.abs(by) >= 10 ? (by > 0 ? "Shift+D" : "Shift+A") : by > 0 ? "d" : "a";
    const next = here + Math.sign(by) * (Math.abs(by) >= 10 ? 10 : 1);
    await page.keyboard.press(key);
    await expect.poll(() => frame(page), { intervals: [4, 8, 16, 30] }).toBe(next);
    here = next;
  }
}

/**
 * Plays footfalls on the four hoof keys: each key goes down in the first frame of contact and up
 * in the first frame clear, several held at once, as a stance is.
 */
export async function mark(page: Page, footfalls: Footfall[], fps: number): Promise<void> {
  const firstFrameFrom = (s: number) => Math.ceil(s * fps - 1e-6) + 1;
  const events = footfalls
    .flatMap((f) => [
      { frame: firstFrameFrom(f.on), down: true, key: KEY[f.limb] ?? "" },
      { frame: firstFrameFrom(f.off), down: false, key: KEY[f.limb] ?? "" },
    ])
    .sort((a, b) => a.frame - b.frame || Number(a.down) - Number(b.down));
  for (const e of events) {
    await stepTo(page, e.frame);
    if (e.down) await page.keyboard.down(e.key);
    else await page.keyboard.up(e.key);
  }
  await expect(page.getByText("all marks saved")).toBeVisible();
}

/** `98.5 ± 0.6` of a row of the figures as value and half interval. */
export async function figure(page: Page, name: string): Promise<{ value: number; half: number }> {
  await page.getByRole("tab", { name: "figures" }).click();
  const row = page.getByRole("row").filter({ has: page.getByRole("rowheader", { name }) });
  const text = (await row.getByRole("cell").first().textContent()) ?? "";
  const [value, half] = text.split("±").map((part) => Number(part.trim()));
  return { value: value ?? NaN, half: half ?? NaN };
}
