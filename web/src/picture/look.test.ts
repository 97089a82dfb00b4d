import { describe, expect, it } from "vitest";

import { boxOf, closer, shownAt, whole } from "./look";

const clip = { width: 1920, height: 1080 };
const frame = { width: 960, height: 600 };

describe("a look at the picture", () => {
  it("centres all of it in its frame", () => {
    const box = boxOf(clip, frame, whole(clip));
    expect(box).toEqual({ scale: 0.5, left: 0, top: 30 });
    expect(shownAt({ x_px: 960, y_px: 540 }, clip, box, false)).toEqual({ x: 480, y: 300 });
  });

  it("keeps a pixel where it is while it comes closer", () => {
    const p = { x_px: 700, y_px: 500 };
    for (const mirrored of [false, true]) {
      let look = closer(whole(clip), clip, p, 2, mirrored);
      const before = shownAt(p, clip, boxOf(clip, frame, look), mirrored);
      look = closer(look, clip, p, 2, mirrored);
      const after = shownAt(p, clip, boxOf(clip, frame, look), mirrored);
      expect(after.x).toBeCloseTo(before.x, 6);
      expect(after.y).toBeCloseTo(before.y, 6);
      expect(boxOf(clip, frame, look).scale).toBeCloseTo(2, 6);
    }
  });

  it("never leaves an empty edge beside a picture that fills its frame", () => {
    for (const corner of [
      { x_px: 0, y_px: 0 },
      { x_px: 1920, y_px: 1080 },
    ]) {
      const look = closer(whole(clip), clip, corner, 6, false);
      const { scale, left, top } = boxOf(clip, frame, look);
      expect(left).toBeLessThanOrEqual(0);
      expect(top).toBeLessThanOrEqual(0);
      expect(left + clip.width * scale).toBeGreaterThanOrEqual(frame.width - 1e-6);
      expect(top + clip.height * scale).toBeGreaterThanOrEqual(frame.height - 1e-6);
    }
  });

  it("turns a mirror image back", () => {
    const box = boxOf(clip, frame, whole(clip));
    const left = shownAt({ x_px: 100, y_px: 0 }, clip, box, false);
    const right = shownAt({ x_px: 1820, y_px: 0 }, clip, box, true);
    expect(left.x).toBeCloseTo(right.x, 9);
  });

  it("goes back to all of it, and no closer than it can", () => {
    let look = whole(clip);
    for (let k = 0; k < 20; k++) look = closer(look, clip, { x_px: 5, y_px: 5 }, 2, false);
    expect(look.close).toBe(12);
    for (let k = 0; k < 20; k++) look = closer(look, clip, { x_px: 5, y_px: 5 }, 0.5, false);
    expect(look).toEqual(whole(clip));
  });
});
