import { expect, type Page, test } from "@playwright/test";

import { choose, settled, shown, unmarked } from "./desk";

/** Opens the Ground desk of a clip from its Timing desk. */
async function ground(page: Page, horse: string, clip: string): Promise<void> {
  await page.goto("/");
  const row = page.getByRole("listitem").filter({ hasText: horse }).first();
  await row.getByRole("button", { name: /session/ }).click();
  await page.getByRole("link", { name: new RegExp(`^${clip}`) }).click();
  await shown(page);
  await page.getByRole("link", { name: "Ground desk" }).click();
  await shown(page);
}

const title = (page: Page) => page.getByRole("heading", { level: 1 });

test("cones and hoof clicks say that the horse lengthens; a click is made by keys and taken back", async ({
  page,
}) => {
  await ground(page, "Tinne", "tinne-lengthening");
  // The footfalls that were drawn say 87.6 to 87.8 %, by which strides are counted in.
  await expect(title(page)).toContainText("he lengthens, 88 % of the change by the stride");
  // The hoof of the next footfall: its frame is offered, arrows move the cross, Enter clicks.
  const hooves = page.getByRole("tab", { name: "Hooves 61/61" });
  await hooves.click();
  await page.keyboard.press("e");
  await expect(page.getByText(/Click the .* hoof’s toe/)).toBeVisible();
  await settled(page);
  await page.getByRole("button", { name: "Take this click away" }).click();
  await expect(page.getByRole("tab", { name: "Hooves 60/61" })).toBeVisible();
  await page.keyboard.press("Escape");
  await page.getByRole("button", { name: "Go on with the next hoof" }).click();
  await settled(page);
  await page.keyboard.press("Shift+ArrowLeft");
  await page.keyboard.press("Enter");
  await expect(hooves).toBeVisible();
  await page.keyboard.press("z");
  await expect(page.getByRole("tab", { name: "Hooves 60/61" })).toBeVisible();
  await page.keyboard.press("z");
  await expect(hooves).toBeVisible();
  await expect(title(page)).toContainText("trot 2.72 ± 0.09 m at 3.6 m/s");
});

test("a scale with too few points says so, and comes back", async ({ page }) => {
  await ground(page, "Tinne", "tinne-lengthening");
  await page.getByRole("tab", { name: "Scale" }).click();
  const take = page.getByRole("button", { name: "take away" });
  await expect(take).toHaveCount(5);
  await take.first().click();
  await expect(take).toHaveCount(4);
  await expect(page.getByText("Four points fit always")).toBeVisible();
  await take.first().click();
  await expect(page.getByText("3 of at least 4 points: click 1 more.")).toBeVisible();
  await expect(title(page)).toContainText("No length yet");
  await page.keyboard.press("z");
  await expect(take).toHaveCount(4);
  await page.keyboard.press("z");
  await expect(take).toHaveCount(5);
  await expect(title(page)).toContainText("he lengthens");
  // The last cone again, from nothing: its place, then a click where it is seen.
  await take.last().click();
  await expect(take).toHaveCount(4);
  await page.getByLabel("Across from K’s side").fill("6");
  await page.getByLabel("Along from A").fill("30");
  await page.getByRole("button", { name: "Click cone 5" }).click();
  const box = await page.getByTestId("picture").boundingBox();
  if (!box) throw new Error("no picture");
  // 1920 × 800 px fill the width; the cone stands in the middle, 3.2 m below a camera 17.4 m away.
  const scale = Math.min(box.width / 1920, box.height / 800);
  const below = 400 + 1140 * Math.tan(Math.atan(3.2 / 17.4) - Math.atan((3.2 - 0.62 * 1.64) / 30));
  await page.mouse.click(box.x + box.width / 2, box.y + box.height / 2 + (below - 400) * scale);
  await expect(take).toHaveCount(5);
  await expect(page.getByRole("alert")).toHaveCount(0);
  await expect(title(page)).toContainText("he lengthens");
  for (let k = 0; k < 2; k++) await page.keyboard.press("z");
  await expect(page.getByRole("listitem").filter({ hasText: "cone 5: 6 m across" })).toBeVisible();
});

test("points on a still give the outline, and the still is removed and brought back", async ({
  page,
}) => {
  await ground(page, "Distel", "distel-trot");
  await page.goto(page.url().replace("/ground", ""));
  await unmarked(page);
  await page.getByRole("link", { name: "Ground desk" }).click();
  await shown(page);
  await page.getByRole("tab", { name: "Still" }).click();
  await page.getByRole("button", { name: "Begin with the poll" }).click();
  const picture = page.getByTestId("picture");
  const box = await picture.boundingBox();
  if (!box) throw new Error("no picture");
  // Facing left: poll, forehead, nose, withers, croup.
  const places = [
    [0.3, 0.25],
    [0.27, 0.28],
    [0.25, 0.4],
    [0.4, 0.35],
    [0.6, 0.36],
  ];
  for (const [k, [x = 0, y = 0]] of places.entries()) {
    await page.mouse.click(box.x + box.width * x, box.y + box.height * y);
    await expect(page.getByRole("button", { name: "LF" })).toBeVisible();
    await expect
      .poll(async () => {
        const clip = page.url().match(/clips\/(\d+)/)?.[1];
        const desk = (await (await page.request.get(`/api/clips/${clip}/desk`)).json()) as {
          tags: { what: { kind: string; points?: object } }[];
        };
        return Object.keys(desk.tags.find((t) => t.what.kind === "still")?.what.points ?? {});
      })
      .toHaveLength(k + 1);
  }
  await expect(
    page.getByText(/The nose line is \d+ ± \d+° in front of the vertical/),
  ).toBeVisible();
  await expect(page.getByRole("rowheader", { name: "Front by back" })).toBeVisible();
  await page.keyboard.press("Escape");
  await page.getByRole("button", { name: "Remove this still" }).click();
  await expect(page.getByRole("button", { name: "Begin with the poll" })).toBeVisible();
  await page.keyboard.press("z");
  await expect(page.getByText(/The nose line is/)).toBeVisible();
});

test("a figure says whether and where it fits, and what strides to expect", async ({ page }) => {
  await page.goto("/arena");
  await expect(title(page)).toContainText("from 1.0 m before X to 25.0 m past X");
  await choose(page, page.getByLabel(/^Side/), /left/);
  await expect(title(page)).toContainText("from 25.0 m before X to 1.0 m past X");
  await choose(page, page.getByLabel(/^Horse/), "Tinne");
  await expect(page.getByRole("rowheader", { name: "Trot, extended" })).toBeVisible();
  await choose(page, page.getByLabel(/^Figure/), /^line/i);
  await expect(title(page)).toContainText("The line is 52.00 m long");
  await expect(page.getByText(/5 changes every 4 strides take/)).toBeVisible();
  await choose(page, page.getByLabel(/^Figure/), /serpentine/i);
  await expect(title(page)).toContainText("A serpentine of 3 loops is 94.25 m long");
  await choose(page, page.getByLabel(/^Arena/), /40/);
  await expect(title(page)).toContainText("each half circle 13.3 m across");
});
