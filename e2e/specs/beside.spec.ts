import { expect, test } from "@playwright/test";

import { painted } from "./painted";

const [A = 0, B = 0] = JSON.parse(process.env.UMLAUF_LOCKED ?? "[]") as number[];
const STRIDES = 20;
const PHASES = [
  ["LH", 0],
  ["RF", 0.02],
  ["RH", 0.5],
  ["LF", 0.52],
] as const;

/** Frames of the footfalls of a trot at 60 frames/s: strides of `t` s from a moment on. */
function trot(t: number, from: number) {
  return Array.from({ length: STRIDES + 1 }, (_, k) =>
    PHASES.map(([limb, phase]) => ({ limb, frame: Math.round((from + (k + phase) * t) * 60) })),
  ).flat();
}

test("two films at different tempos show the same footfalls at once, throughout twenty strides", async ({
  page,
}) => {
  test.skip(A === 0, "needs the two films that cargo test makes");
  const { request } = page;
  const horse = await request.post("/api/horses", { data: { name: "Lach", withers_m: null } });
  const { id } = (await horse.json()) as { id: number };
  const films = [
    { clip: A, date: "2026-11-02", footfalls: trot(0.75, 0.5) },
    { clip: B, date: "2026-11-09", footfalls: trot(0.66, 1.1) },
  ] as const;
  for (const { clip, date, footfalls } of films) {
    const placed = await request.put(`/api/clips/${clip}/place`, { data: { horse: id, date } });
    expect(placed.ok()).toBe(true);
    const frames = (await (await request.get(`/api/clips/${clip}/frames`)).json()) as {
      times_us: number[];
    };
    const changes = footfalls.map((f, k) => ({
      before: null,
      after: {
        id: `lock${k}`,
        limb: f.limb,
        on_us: frames.times_us[f.frame],
        off_us: frames.times_us[f.frame + 20],
      },
    }));
    const made = await request.post(`/api/clips/${clip}/edits`, {
      data: { edit_id: `lock${clip}`, changes },
    });
    expect(made.ok()).toBe(true);
  }
  await page.goto(`/beside?a=clip:${A}:trot&b=clip:${B}:trot`);
  const first = page.getByTestId("first-frame");
  const second = page.getByTestId("second-frame");
  const still = async () => {
    await expect(first).toHaveAttribute("aria-busy", "false");
    await expect(second).toHaveAttribute("aria-busy", "false");
  };
  await still();
  const [one, two] = films;
  let here = Number(await first.textContent()) - 1;
  let worst = 0;
  // The last stride ends with the footfalls after it, which belong to no whole stride.
  for (const [k, f] of one.footfalls.slice(0, 4 * STRIDES).entries()) {
    while (here < f.frame) {
      const far = f.frame - here >= 10;
      await page.keyboard.press(far ? "Shift+D" : "d");
      here += far ? 10 : 1;
    }
    await expect(first).toHaveText(String(f.frame + 1));
    await still();
    const want = two.footfalls[k]?.frame ?? 0;
    await expect.poll(() => painted(page, 0, 0)).toBe(f.frame);
    const apart = async () => Math.abs((await painted(page, 0, 1)) - want);
    await expect.poll(apart, `${f.limb} of stride ${k >> 2}`).toBeLessThanOrEqual(1);
    worst = Math.max(worst, await apart());
  }
  console.log(`locked footfalls: furthest apart ${worst} frames of 1/60 s`);
  // One bout a side: the answer is provisional, and the tempo is told from 80 to 91 a minute.
  await expect(page.getByRole("heading", { level: 1 })).toContainText("Provisionally");
  await expect(page.getByRole("rowheader", { name: /^Tempo/ })).toBeVisible();
  await page.getByRole("button", { name: "plain time" }).click();
  await still();
  const start = Number(await first.textContent());
  for (let n = 0; n < 6; n++) await page.keyboard.press("Shift+D");
  await still();
  // In plain time sixty frames on are sixty frames on.
  await expect(first).toHaveText(String(start + 60));
  await expect(second).toHaveText(String((two.footfalls[0]?.frame ?? 0) + 1 + 60));
});

test("a horse's record finds the rein that lags, and its reins are one click apart", async ({
  page,
}) => {
  await page.goto("/");
  await page.getByRole("link", { name: "Priel", exact: true }).click();
  const title = page.getByRole("heading", { level: 1 });
  await expect(title).toContainText("rhythm and answer to the aid get better over 12 sessions");
  // A figure opens to its curve and to the bouts it came from.
  await page.getByRole("button", { name: /^Rhythm.*where this comes from/ }).click();
  await expect(page.getByText(/mark 0–10 over %/)).toBeVisible();
  await page.getByRole("link", { name: /left rein, 1\.\d s/ }).click();
  await expect(page.getByText("This ride came as a table of footfalls")).toBeVisible();
  await page.goBack();
  await page.getByRole("link", { name: "Put the chosen two side by side" }).click();
  await expect(title).toContainText(/is better than 5 September 2026 in rhythm/);
  await page.getByRole("link", { name: "This session’s two reins" }).click();
  await expect(page.getByText("The right rein less the left rein").first()).toBeAttached();
  await expect(title).toContainText("the left rein");
});
