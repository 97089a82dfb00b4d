import { afterEach, describe, expect, it, vi } from "vitest";

import { deskWith, frame, trot } from "../../tests/desk-kit";
import { api } from "../api/client";

afterEach(() => {
  vi.restoreAllMocks();
  vi.unstubAllGlobals();
});

type Foretold = { limb: string; on_us: number; off_us?: number };

/** A desk with two strides of trot marked, and a server that foretells in turn. */
function desk(...strides: (Foretold[] | Error)[]) {
  const kit = deskWith(trot(2));
  const asked: number[] = [];
  vi.spyOn(api, "GET").mockImplementation(((
    _: string,
    o: { params: { query: { after_us: number } } },
  ) => {
    asked.push(o.params.query.after_us);
    const next = strides.shift() ?? [];
    if (next instanceof Error) return Promise.reject(next);
    return Promise.resolve({ data: { next }, response: new Response() });
  }) as never);
  vi.spyOn(kit.store, "saved").mockResolvedValue();
  return { ...kit, asked };
}

const third: Foretold[] = [
  { limb: "LH", on_us: frame(120) + 3000, off_us: frame(150) - 4900 },
  { limb: "RF", on_us: frame(121) - 2000 },
  { limb: "RH", on_us: frame(150) },
  { limb: "LF", on_us: frame(151) },
];

const places = (marks: readonly { limb: string; on_us: number }[]) =>
  marks.map((m) => [m.limb, m.on_us / 10_000]);

describe("carrying on", () => {
  it("shows each foretold footfall on the nearest frame and counts none of them", async () => {
    const { carry, store, clock } = desk(third);
    await carry.on();
    expect(places(carry.snapshot().marks)).toEqual([
      ["LH", 120],
      ["RF", 121],
      ["RH", 150],
      ["LF", 151],
    ]);
    expect(carry.snapshot().marks[0]?.off_us).toBe(frame(150));
    expect(store.snapshot().marks).toHaveLength(8);
    expect(clock.now()).toBe(frame(120));
  });

  it("takes the stride as one edit and asks from its last footfall on", async () => {
    const { carry, store, asked } = desk(third, []);
    await carry.on();
    await carry.on();
    expect(store.snapshot().marks).toHaveLength(12);
    expect(store.snapshot().unsaved).toBe(1);
    expect(asked[1]).toBe(frame(151));
    // The clip ends: it says so and foretells nothing more.
    expect(carry.active).toBe(false);
    expect(carry.snapshot().message).toContain("Nothing to carry on from");
  });

  it("moves the whole stride, or one limb with its stance, and keeps them in order", async () => {
    const { carry, clock } = desk(third);
    await carry.on();
    carry.nudge(2);
    expect(places(carry.snapshot().marks).map(([, at]) => at)).toEqual([122, 123, 152, 153]);
    expect(carry.snapshot().marks[0]?.off_us).toBe(frame(152));
    carry.focus("LH");
    expect(clock.now()).toBe(frame(122));
    carry.nudge(3);
    expect(places(carry.snapshot().marks)).toEqual([
      ["RF", 123],
      ["LH", 125],
      ["RH", 152],
      ["LF", 153],
    ]);
    carry.focus("LH");
    expect(carry.snapshot().focus).toBeNull();
  });

  it("leaves out the limb in focus, and takes the rest", async () => {
    const { carry, store } = desk(third, []);
    await carry.on();
    carry.focus("RH");
    carry.drop();
    await carry.on();
    expect(store.snapshot().marks).toHaveLength(11);
    expect(store.snapshot().marks.some((m) => m.limb === "RH" && m.on_us > frame(140))).toBe(false);
  });

  it("changes the lead of what is foretold and of nothing else", async () => {
    const { carry, store } = desk(third);
    await carry.on();
    const before = store.snapshot().marks;
    carry.swap();
    expect(places(carry.snapshot().marks).map(([limb]) => limb)).toEqual(["RH", "LF", "LH", "RF"]);
    expect(store.snapshot().marks).toBe(before);
  });

  it("foretells nothing behind the last frame", async () => {
    const { carry } = desk([
      { limb: "LH", on_us: frame(998), off_us: frame(1020) },
      { limb: "RF", on_us: frame(1001) },
    ]);
    await carry.on();
    expect(carry.snapshot().marks).toMatchObject([{ limb: "LH", on_us: frame(998), off_us: null }]);
    carry.nudge(5);
    expect(carry.snapshot().marks).toMatchObject([{ on_us: frame(998) }]);
  });

  it("is over when it is stopped while the next stride is on its way", async () => {
    const { carry } = desk(third);
    const coming = carry.on();
    expect(carry.waiting).toBe(true);
    carry.stop();
    await coming;
    expect(carry.waiting).toBe(false);
    expect(carry.snapshot()).toEqual({ marks: [], focus: null, message: null });
  });

  it("asks once for a key pressed twice, and says when the server is away", async () => {
    const { carry, asked } = desk(new TypeError("network"));
    await Promise.all([carry.on(), carry.on()]);
    expect(asked).toHaveLength(1);
    expect(carry.snapshot().message).toContain("does not answer");
    expect(carry.active).toBe(false);
  });

  it("carries on from a footfall chosen in the middle", async () => {
    const { carry, store, clock, asked } = desk([]);
    clock.goTo(10);
    store.select("RH0");
    await carry.on();
    expect(asked).toEqual([frame(30)]);
  });
});
