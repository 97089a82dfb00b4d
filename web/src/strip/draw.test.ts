import { describe, expect, it } from "vitest";

import { footfall, frame, trot } from "../../tests/desk-kit";
import { draw, type Scene } from "./draw";
import { Loudness } from "./loudness";
import { LANE_Y, SOUND, SOUND_Y } from "./rows";
import { SvgPen } from "./svg-pen";

const inks = {
  ...{ line: "#111111", cool: "#222222", warm: "#333333", coolPale: "#444444" },
  ...{ warmPale: "#555555", chalk: "#666666", clay: "#777777", soft: "#888888" },
};

function drawn(change: Partial<Scene>): string[] {
  const pen = new SvgPen();
  draw(pen, {
    ...{ view: { from: 0, to: frame(200) }, width: 1000, marks: [], chosen: new Set<string>() },
    ...{ selected: null, foretold: [], hidden: null, loudness: null, inks },
    ...change,
  });
  return pen.parts;
}

/** Where circles and squares begin, pixels: their left edges. */
const starts = (parts: string[], ink: string) =>
  parts
    .filter((p) => p.includes(`stroke="${ink}"`))
    .flatMap((p) => [...p.matchAll(/M(-?[\d.]+) [\d.]+(?=[hM])/g)].map((m) => Number(m[1])));

describe("the strip", () => {
  it("moves and stretches with its window", () => {
    const marks = [footfall("a", "RF", 100)];
    expect(starts(drawn({ marks }), "#333333")).toEqual([495.5]);
    const near = drawn({ marks, view: { from: frame(90), to: frame(110) } });
    expect(starts(near, "#333333")).toEqual([495.5]);
    const late = drawn({ marks, view: { from: frame(75), to: frame(175) } });
    expect(starts(late, "#333333")).toEqual([245.5]);
  });

  it("shows the end of a stance whose footfall lies before the window", () => {
    const long = [footfall("a", "LH", 10, 120)];
    const parts = drawn({ marks: long, view: { from: frame(100), to: frame(200) } });
    const bar = parts.find((p) => p.includes('fill="#444444"'));
    // From 90 frames before the edge to 20 behind it, ten pixels a frame.
    expect(bar).toContain("M-900 ");
    expect(bar).toContain("h1100");
  });

  it("draws only what is near the window of a long ride", () => {
    const ride = trot(3000);
    const parts = drawn({ marks: ride, view: { from: frame(90_000), to: frame(90_200) } });
    const heads = parts.filter((p) => p.includes('stroke="#333333"')).join("");
    const count = heads.split("M").length - 1;
    expect(count).toBeGreaterThan(5);
    // A window of three strides, and what stood up to 20 s before it: not 3,000 strides.
    expect(count).toBeLessThan(100);
  });

  it("draws runs of columns where heads would be a smear, in every limb's own lane", () => {
    const ride = trot(3000);
    const parts = drawn({ marks: ride, view: { from: 0, to: frame(180_000) } });
    expect(parts.some((p) => p.includes("A5"))).toBe(false);
    const bars = parts.filter((p) => p.startsWith("<rect") && p.includes('height="13"'));
    const lanes = new Set(bars.map((p) => / y="([\d.]+)"/.exec(p)?.[1]));
    expect([...lanes].map(Number)).toEqual(LANE_Y.map((y) => y - 6.5));
    for (const bar of bars) {
      const x = Number(/ x="([\d.]+)"/.exec(bar)?.[1]);
      const wide = Number(/ width="([\d.]+)"/.exec(bar)?.[1]);
      expect(x).toBeGreaterThanOrEqual(0);
      expect(x + wide).toBeLessThanOrEqual(1000);
    }
  });

  it("leaves out what is timed again, and shows it when that is over", () => {
    const marks = trot(3);
    const hidden = { from: frame(60), to: frame(120) };
    expect(starts(drawn({ marks, hidden }), "#333333")).toHaveLength(4);
    expect(starts(drawn({ marks }), "#333333")).toHaveLength(6);
  });

  it("frames what is chosen, the leading one stronger", () => {
    const marks = trot(1);
    const parts = drawn({ marks, chosen: new Set(["LH0", "RF0"]), selected: "RF0" });
    const frames = parts.filter((p) => p.includes('stroke="#777777"'));
    expect(frames).toHaveLength(2);
    const strong = frames.filter((p) => p.includes('stroke-width="2"'));
    expect(strong).toHaveLength(1);
    // The leading one lands on frame 1: 5 pixels in, 9 to each side of its stance.
    expect(strong[0]).toContain('x="-4"');
    expect(strong[0]).toContain(`width="${150 + 18}"`);
  });

  it("draws what is foretold dashed and pale, above the marks", () => {
    const parts = drawn({ marks: trot(1), foretold: [footfall("f", "RH", 90, 120)] });
    const dashed = parts.filter((p) => p.includes('stroke-dasharray="2 2"'));
    expect(dashed).toHaveLength(1);
    expect(parts.filter((p) => p.includes('opacity="0.45"'))).toHaveLength(1);
    expect(parts.indexOf(dashed[0] ?? "")).toBeGreaterThan(
      parts.findIndex((p) => p.includes('stroke="#333333"')),
    );
    // A hind that is only foretold is not filled.
    expect(parts[parts.indexOf(dashed[0] ?? "") - 1]).toContain('fill="#666666"');
  });

  it("draws sound as high as it is loud, and silence flat", () => {
    const points = [0, 255, 0, 0, 128, 0, 0, 0, 0, 0];
    const loudness = new Loudness({ step_us: frame(20), points } as never);
    const [path = ""] = drawn({ loudness }).filter((p) => p.startsWith("<path"));
    const heights = [...path.matchAll(/L(-?[\d.]+) (-?[\d.]+)/g)].map((m) => Number(m[2]));
    const floor = SOUND_Y + SOUND;
    expect(Math.min(...heights)).toBeCloseTo(floor - (SOUND - 2));
    expect(heights.filter((y) => y < floor).length).toBe(100); // two tenths of 500 columns
    expect(new Set(heights.slice(-50))).toEqual(new Set([floor]));
  });
});
