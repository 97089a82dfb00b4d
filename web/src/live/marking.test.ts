import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";

import { deskWith, footfall, frame } from "../../tests/desk-kit";

beforeEach(() => vi.useFakeTimers());
afterEach(() => {
  vi.useRealTimers();
  vi.restoreAllMocks();
  vi.unstubAllGlobals();
});

/** A desk whose footage plays: the screen's clock is turned by hand. */
function playing(rate: number) {
  const kit = deskWith([]);
  let tick: FrameRequestCallback = () => undefined;
  vi.stubGlobal("requestAnimationFrame", (next: FrameRequestCallback) => {
    tick = next;
    return 1;
  });
  vi.stubGlobal("cancelAnimationFrame", () => undefined);
  kit.clock.setRate(rate);
  kit.clock.toggle();
  let now = performance.now();
  tick(now);
  const pass = (ms: number) => {
    now += ms;
    vi.advanceTimersByTime(ms);
    tick(now);
  };
  return { ...kit, pass };
}

describe("marking while the footage plays", () => {
  it("a quick tap is a footfall though the picture has moved on, and keeps its rate", () => {
    const { marking, store, pass } = playing(0.5);
    pass(100);
    marking.press("LF");
    pass(120);
    marking.release("LF");
    // 100 ms at half speed are 50 ms of the footage: frame 5.
    expect(store.snapshot().marks).toMatchObject([
      { limb: "LF", on_us: frame(5), off_us: null, origin: { how: "tapped", rate: 0.5 } },
    ]);
  });

  it("a key held is a stance as long as it was held, in the footage's time", () => {
    const { marking, store, pass } = playing(0.25);
    marking.press("RH");
    pass(400);
    marking.release("RH");
    expect(store.snapshot().marks).toMatchObject([{ on_us: 0, off_us: frame(10) }]);
  });

  it("shows which keys are down", () => {
    const { marking, pass } = playing(1);
    marking.press("LF");
    pass(50);
    marking.press("RH");
    expect(marking.snapshot().map((h) => [h.limb, h.on_us])).toEqual([
      ["LF", 0],
      ["RH", frame(5)],
    ]);
    marking.release("LF");
    expect(marking.snapshot().map((h) => h.limb)).toEqual(["RH"]);
    marking.releaseAll();
    expect(marking.snapshot()).toEqual([]);
  });

  it("a key that was never pressed marks nothing when it is let go", () => {
    const { marking, store } = playing(1);
    marking.release("LH");
    marking.releaseAll();
    expect(store.snapshot().marks).toEqual([]);
  });

  it("stops at the last frame, and what is held ends there", () => {
    const { marking, store, clock, pass } = playing(1);
    marking.press("LH");
    pass(60_000);
    expect(clock.snapshot()).toMatchObject({ frame: 999, playing: false });
    marking.release("LH");
    expect(store.snapshot().marks).toMatchObject([{ on_us: 0, off_us: frame(999) }]);
  });
});

describe("marking a stretch a second time", () => {
  it("puts marks beside the first ones and leaves those as they are", () => {
    const { marking, store, clock } = deskWith([footfall("a", "LF", 20)]);
    store.timeAgain({ from: frame(10), to: frame(90), marks: [] });
    for (const k of [60, 21]) {
      clock.goTo(k);
      marking.press("LF");
      marking.release("LF");
    }
    expect(store.snapshot().again?.marks.map((m) => m.on_us)).toEqual([frame(21), frame(60)]);
    expect(store.snapshot().marks).toEqual([footfall("a", "LF", 20)]);
    expect(store.snapshot().unsaved).toBe(0);
  });
});
