import { expect, type Page, test } from "@playwright/test";

import { type Footfall, frame, KEY, mark, open, settled, stepTo, truth, unmarked } from "./desk";

const FPS = 120;
const frameOf = (s: number) => Math.ceil(s * FPS - 1e-6) + 1;

type Tile = { limb: string; frame: number };

const LIMB: Record<string, string> = {
  "left fore": "LF",
  "right fore": "RF",
  "left hind": "LH",
  "right hind": "RH",
};

/** The foretold footfalls as the desk shows them. */
async function tiles(page: Page): Promise<Tile[]> {
  const buttons = page.getByRole("button", { name: /^(left|right) (fore|hind), frame/ });
  const names = await buttons.evaluateAll((all) => all.map((b) => b.getAttribute("aria-label")));
  return names.map((name) => {
    const [, limb = "", at = ""] = /^(\w+ \w+), frame (\d+)/.exec(name ?? "") ?? [];
    return { limb: LIMB[limb] ?? "", frame: Number(at) };
  });
}

/** Marks on the strip. */
async function marked(page: Page): Promise<number> {
  const label = await page.getByRole("application").getAttribute("aria-label");
  return Number.parseInt(label ?? "", 10);
}

/** Footfalls after those marked, by limb: what the foretold ones are held against. */
function dueNext(all: Footfall[], done: Set<Footfall>, limb: string): Footfall | undefined {
  return all.find((f) => f.limb === limb && !done.has(f));
}

/**
 * Carries on through strides that keep their pattern, correcting each to within `slack` frames:
 * first the stride as a whole, then single hooves. Stops at a stride whose hooves are in other
 * places (a change of lead) or at `until`. Gives how many keys it took for how many footfalls.
 */
async function carryOn(
  page: Page,
  all: Footfall[],
  done: Set<Footfall>,
  slack: number,
  until: number,
) {
  let keys = 0;
  let footfalls = 0;
  const press = async (key: string) => {
    await page.keyboard.press(key);
    keys++;
  };
  const had = await marked(page);
  await press("c");
  for (;;) {
    await expect.poll(async () => (await tiles(page)).length).toBe(4);
    const shown = await tiles(page);
    const due = shown.map((t) => dueNext(all, done, t.limb));
    const late = shown.map((t, k) => frameOf(due[k]?.on ?? Infinity) - t.frame);
    const over = due.some((f) => f === undefined || f.on > until);
    if (over || late.some((d) => Math.abs(d) > 8)) break;
    const middle = [...late].sort((a, b) => a - b)[1] ?? 0;
    const all_by = late.some((d) => Math.abs(d) > slack) ? middle : 0;
    for (let k = 0; k < Math.abs(all_by); k++) await press(all_by > 0 ? "d" : "a");
    for (const [k, tile] of shown.entries()) {
      const rest = (late[k] ?? 0) - all_by;
      if (Math.abs(rest) <= slack) continue;
      await press(KEY[tile.limb] ?? "");
      for (let n = 0; n < Math.abs(rest); n++) await press(rest > 0 ? "d" : "a");
    }
    for (const f of due) if (f) done.add(f);
    footfalls += 4;
    const next = had + footfalls;
    await press("c");
    await expect.poll(() => marked(page)).toBe(next);
    // The tiles are those of the next stride once none of them is where one of this was.
    await expect
      .poll(async () => {
        const now = await tiles(page);
        return now.every(
          (t) => !shown.some((s) => s.limb === t.limb && Math.abs(s.frame - t.frame) < 20),
        );
      })
      .toBe(true);
    if ((await tiles(page)).length < 4) break;
  }
  await page.keyboard.press("Escape");
  await expect.poll(async () => (await tiles(page)).length).toBe(0);
  return { keys, footfalls };
}

/** Marks by hand what lies between two moments and is not marked yet. */
async function byHand(page: Page, all: Footfall[], done: Set<Footfall>, until: number) {
  const now = all.filter((f) => !done.has(f) && f.on < until);
  await mark(page, now, FPS);
  for (const f of now) done.add(f);
}

test("a canter with two changes, marked from nothing by keys alone", async ({ page }) => {
  test.setTimeout(300_000);
  await open(page, "Bernsteen", "bernsteen-changes");
  await unmarked(page);
  // The last stances outlast the clip.
  const all = truth("bernsteen-changes").filter((f) => f.off < 9.6);
  const starts = all.filter((f) => f.limb.endsWith("H")).map((f) => f.on);
  const done = new Set<Footfall>();
  await byHand(page, all, done, (starts[2] ?? 0) + 0.01);
  let carried = 0;
  while (done.size < all.length) {
    const { footfalls } = await carryOn(page, all, done, 0, Infinity);
    carried += footfalls;
    const next = all.find((f) => !done.has(f));
    if (!next) break;
    // A stride by hand: here the horse does something new, or the clip ends.
    await byHand(page, all, done, next.on + 0.7);
  }
  expect(carried).toBeGreaterThanOrEqual(24);
  const title = page.getByRole("heading", { level: 1 });
  await expect(title).toContainText("2 flying changes, the second late behind by 1");

  // A wrong limb is found, and put right.
  await stepTo(page, frameOf(all[8]?.on ?? 0) - 3);
  await settled(page);
  await page.keyboard.press("e");
  const wrong = all[8]?.limb ?? "";
  const other = wrong === "LF" ? "RF" : "LF";
  await page.keyboard.press("r");
  await expect(page.getByText("Which limb is it?")).toBeVisible();
  await page.keyboard.press(KEY[other] ?? "");
  await page.keyboard.press("r");
  await page.keyboard.press(KEY[wrong] ?? "");
  await expect(page.getByText("all marks saved")).toBeVisible();
  await expect(title).toContainText("2 flying changes, the second late behind by 1");

  // The plan of the line, by keys: what was ridden, tempi, every 4, two of them.
  await page.keyboard.press("b");
  await expect(page.getByRole("dialog")).toBeVisible();
  await page.getByLabel("Movement or figure").focus();
  await page.keyboard.type("fly");
  await expect(page.getByLabel("Movement or figure")).toContainText("flying changes");
  await page.keyboard.press("Tab");
  await page.keyboard.press("Tab");
  await page.keyboard.type("2");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("dialog")).toHaveCount(0);
  // The sheet gives the focus back a moment after it has gone.
  await expect(async () => {
    await page.getByRole("tab", { name: "findings" }).focus();
    await page.keyboard.press("Home");
    await page.keyboard.press("ArrowRight");
    await page.keyboard.press("ArrowRight");
    const work = page.getByRole("tab", { name: "work" });
    await expect(work).toHaveAttribute("aria-selected", "true", { timeout: 500 });
  }).toPass();
  await expect(page.getByText("Changes every 4 strides: 2 of 2 ridden, 1 clean")).toBeVisible();
  await expect(
    page.getByRole("heading", { name: /^Change 1, left to right: clean/ }),
  ).toBeVisible();
  const second = page.getByRole("heading", {
    name: /^Change 2, right to left: late behind by 1 stride/,
  });
  await expect(second).toBeVisible();
  // By how much: the hinds change one stride after the fores, about 617 ms.
  const ms = Number(/(\d+) ms/.exec((await second.textContent()) ?? "")?.[1]);
  const fore = all.find((f) => f.limb === "RF" && f.on > 5.2)?.on ?? 0;
  const hind = all.find((f) => f.limb === "RH" && f.on > 5.6)?.on ?? 0;
  expect(Math.abs(ms - 1000 * (hind - fore))).toBeLessThan(12);

  // Everything outlives a reload, and undo reaches back over it.
  await page.reload();
  await expect(title).toContainText("2 flying changes, the second late behind by 1");
  await page.keyboard.press("z");
  await page.getByRole("tab", { name: "work" }).click();
  await expect(page.getByText(/Changes every 4 strides/)).toHaveCount(0);
  await page.keyboard.press("Shift+Z");
  await expect(page.getByText("Changes every 4 strides: 2 of 2 ridden, 1 clean")).toBeVisible();
});

test("ten strides of canter: keys with and without carrying on", async ({ page }) => {
  test.setTimeout(300_000);
  await open(page, "Priel", "priel-canter");
  await unmarked(page);
  const all = truth("priel-canter");
  const starts = all.filter((f) => f.limb === "RH").map((f) => f.on);
  const ten = (starts[12] ?? 0) + 0.001;
  for (const slack of [1, 0]) {
    const done = new Set<Footfall>();
    await byHand(page, all, done, (starts[2] ?? 0) + 0.01);
    const { keys, footfalls } = await carryOn(page, all, done, slack, ten);
    const strides = footfalls / 4;
    const how = slack === 0 ? "to the very frame" : "to within a frame";
    console.log(`carrying on ${how}: ${(keys / strides).toFixed(2)} keys a stride over ${strides}`);
    expect(strides).toBeGreaterThanOrEqual(8);
    if (slack === 1) expect(keys / strides).toBeLessThanOrEqual(2);
    await page.keyboard.press("0");
    for (let n = await marked(page); n > 0; n = await marked(page)) {
      await page.keyboard.press("z");
      await expect.poll(() => marked(page)).toBeLessThan(n);
    }
  }
  // Without it: a key to go down and one to come up for each hoof, and the frames between.
  const stride = all.filter((f) => f.on >= (starts[2] ?? 0) && f.on < (starts[12] ?? 0));
  const frames = new Set(stride.flatMap((f) => [frameOf(f.on), frameOf(f.off)]));
  const sorted = [...frames].sort((a, b) => a - b);
  let steps = 0;
  for (const [k, f] of sorted.entries()) {
    const by = f - (sorted[k - 1] ?? f);
    steps += Math.floor(by / 10) + (by % 10);
  }
  const presses = (2 * stride.length + steps) / 10;
  console.log(`without: ${presses.toFixed(1)} keys a stride`);
  expect(await frame(page)).toBeGreaterThan(0);
});
