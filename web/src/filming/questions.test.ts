import { describe, expect, it } from "vitest";

import { halfFrame, QUESTIONS } from "./questions";

type Point = { x: number; y: number };

const inArena = ({ x, y }: Point) => x >= 0 && x <= 20 && y >= 0 && y <= 60;

/** Least distance of a point from a straight track, m. */
function apart(p: Point, [a, b]: readonly [Point, Point]): number {
  const [dx, dy] = [b.x - a.x, b.y - a.y];
  const share = ((p.x - a.x) * dx + (p.y - a.y) * dy) / (dx * dx + dy * dy);
  const within = Math.min(Math.max(share, 0), 1);
  return Math.hypot(p.x - a.x - within * dx, p.y - a.y - within * dy);
}

describe("how to film for a question", () => {
  it("asks each question once and says where to stand and why", () => {
    expect(new Set(QUESTIONS.map((q) => q.ask)).size).toBe(QUESTIONS.length);
    for (const { stand, why } of QUESTIONS) {
      expect(stand).toMatch(/\.$/);
      expect(why).toMatch(/\.$/);
    }
  });

  it("puts the coach outside the arena, and off the horse's way by 4 m and more", () => {
    for (const { ask, camera, track } of QUESTIONS) {
      expect(inArena(camera), ask).toBe(false);
      for (const end of track) expect(inArena(end), ask).toBe(true);
      expect(apart(camera, [track[0], track[1]]), ask).toBeGreaterThan(4);
    }
  });

  it("looks square at the horse, but for what is counted from straight ahead", () => {
    for (const { ask, camera, track } of QUESTIONS) {
      const [a, b] = track;
      const along = { x: b.x - a.x, y: b.y - a.y };
      const middle = { x: (a.x + b.x) / 2 - camera.x, y: (a.y + b.y) / 2 - camera.y };
      const cosine =
        Math.abs(along.x * middle.x + along.y * middle.y) /
        (Math.hypot(along.x, along.y) * Math.hypot(middle.x, middle.y));
      if (ask.includes("lateral")) expect(cosine, ask).toBeGreaterThan(0.99);
      else if (!ask.includes("changes") && !ask.includes("Halts"))
        expect(cosine, ask).toBeLessThan(0.1);
    }
  });

  it("lets nobody follow with the camera where metres or a still are wanted", () => {
    for (const { ask, still, stand } of QUESTIONS) {
      if (/length|Tracks|Halts/.test(ask)) expect(still, ask).toBe(true);
      if (!still) expect(stand, ask).toContain("follow");
    }
  });

  it("hides a footfall in half a frame", () => {
    expect(halfFrame(30)).toBeCloseTo(16.67, 2);
    expect(halfFrame(120)).toBeCloseTo(4.17, 2);
    expect(halfFrame(240) * 2 * 240).toBeCloseTo(1000);
  });
});
