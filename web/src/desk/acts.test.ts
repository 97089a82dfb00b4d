import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";

import { deskWith, footfall, frame, trot } from "../../tests/desk-kit";
import { act, boutHere, carried } from "./acts";

beforeEach(() => vi.useFakeTimers());
afterEach(() => {
  vi.useRealTimers();
  vi.restoreAllMocks();
  vi.unstubAllGlobals();
});

const two = { bouts: [bout(0, 1.2), bout(4, 5.2)] };

function bout(start_s: number, end_s: number) {
  return { start_s, end_s, gait: "trot", label: "Trot" };
}

describe("keys that put footfalls down", () => {
  it("a tap is a footfall on the frame on screen, and is chosen", () => {
    const { hands, store, clock, marking } = deskWith([]);
    clock.goTo(12);
    act({ do: "limb", limb: "LF" }, hands);
    marking.release("LF");
    const [mark] = store.snapshot().marks;
    expect(mark).toMatchObject({
      limb: "LF",
      on_us: frame(12),
      off_us: null,
      origin: { how: "stepped" },
    });
    expect(store.snapshot().selected).toBe(mark?.id);
  });

  it("a key held over steps is a stance, its key pressed again does not begin another", () => {
    const { hands, store, clock, marking } = deskWith([]);
    act({ do: "limb", limb: "RH" }, hands);
    act({ do: "step", by: 10 }, hands);
    act({ do: "limb", limb: "RH" }, hands);
    act({ do: "step", by: 15 }, hands);
    marking.release("RH");
    expect(store.snapshot().marks).toMatchObject([{ on_us: 0, off_us: frame(25) }]);
    expect(clock.now()).toBe(frame(25));
  });

  it("two limbs held together are two stances", () => {
    const { hands, store, marking } = deskWith([]);
    act({ do: "limb", limb: "LH" }, hands);
    act({ do: "step", by: 2 }, hands);
    act({ do: "limb", limb: "RF" }, hands);
    act({ do: "step", by: 20 }, hands);
    marking.releaseAll();
    expect(store.snapshot().marks.map((m) => [m.limb, m.on_us, m.off_us])).toEqual([
      ["LH", 0, frame(22)],
      ["RF", frame(2), frame(22)],
    ]);
  });

  it("a footfall put down twice stays one; its stance may be put right", () => {
    const { hands, store, clock, marking } = deskWith([footfall("a", "LH", 5, 30)]);
    clock.goTo(5);
    act({ do: "limb", limb: "LH" }, hands);
    marking.release("LH");
    expect(store.snapshot().marks).toHaveLength(1);
    act({ do: "limb", limb: "LH" }, hands);
    act({ do: "step", by: 33 }, hands);
    marking.release("LH");
    expect(store.snapshot().marks).toMatchObject([{ id: "a", off_us: frame(38) }]);
  });

  it("a lift-off ends the limb's latest stance and no other", () => {
    const { hands, store, clock } = deskWith(trot(2));
    clock.goTo(100);
    act({ do: "lift", limb: "RH" }, hands);
    const ends = store.snapshot().marks.filter((m) => m.limb === "RH");
    expect(ends.map((m) => m.off_us)).toEqual([frame(60), frame(100)]);
    expect(store.snapshot().selected).toBe("RH1");
  });

  it("a lift-off before the limb's first footfall ends nothing", () => {
    const { hands, store } = deskWith([footfall("a", "LF", 3)]);
    act({ do: "lift", limb: "LF" }, hands);
    expect(store.snapshot().marks).toEqual([footfall("a", "LF", 3)]);
    expect(store.snapshot().unsaved).toBe(0);
  });
});

describe("keys that walk over footfalls", () => {
  it("goes from footfall to footfall and stops at the ends", () => {
    const { hands, store, clock } = deskWith(trot(1));
    const places = [];
    for (let k = 0; k < 5; k++) {
      act({ do: "footfall", to: 1 }, hands);
      places.push(clock.target());
    }
    expect(places).toEqual([1, 30, 31, 31, 31].map(frame));
    for (let k = 0; k < 5; k++) act({ do: "footfall", to: -1 }, hands);
    expect(clock.target()).toBe(0);
    expect(store.snapshot().selected).toBe("LH0");
  });

  it("misses neither of two hooves that land on one frame", () => {
    const same = [footfall("a", "LH", 4), footfall("b", "RF", 4), footfall("c", "RH", 9)];
    const { hands, store } = deskWith(same);
    const met = [];
    for (let k = 0; k < 3; k++) {
      act({ do: "footfall", to: 1 }, hands);
      met.push(store.snapshot().selected);
    }
    expect(met).toEqual(["a", "b", "c"]);
  });

  it("chooses one more on the way, and lets go of one met again", () => {
    const { hands, store } = deskWith(trot(1));
    act({ do: "footfall", to: 1 }, hands);
    act({ do: "footfall", to: 1, also: true }, hands);
    act({ do: "footfall", to: 1, also: true }, hands);
    expect([...store.snapshot().chosen]).toEqual(["RF0", "RH0", "LF0"]);
    act({ do: "release" }, hands);
    expect(store.snapshot()).toMatchObject({ selected: null });
    expect(store.snapshot().chosen.size).toBe(0);
  });
});

describe("keys that move the chosen footfalls", () => {
  it("moves a footfall by its frame, not by a time, and says that it was stepped", () => {
    const { hands, store, clock } = deskWith([
      { ...footfall("a", "LF", 8, 30), origin: { how: "tapped", rate: 0.5 } },
    ]);
    store.select("a");
    act({ do: "nudge", by: 1, end: "on" }, hands);
    expect(store.snapshot().marks).toMatchObject([
      { on_us: frame(9), off_us: frame(30), origin: { how: "stepped" } },
    ]);
    expect(clock.now()).toBe(frame(9));
    act({ do: "nudge", by: -1, end: "off" }, hands);
    expect(store.snapshot().marks).toMatchObject([{ on_us: frame(9), off_us: frame(29) }]);
    expect(clock.now()).toBe(frame(29));
  });

  it("moves all that are chosen as one edit", () => {
    const { hands, store } = deskWith(trot(1));
    store.choose(["LH0", "RF0"]);
    act({ do: "nudge", by: 1, end: "on" }, hands);
    expect(store.snapshot().marks.map((m) => m.on_us)).toEqual([1, 2, 30, 31].map(frame));
    expect(store.snapshot().unsaved).toBe(1);
  });

  it("never ends a stance before it began, nor leaves the clip", () => {
    const { hands, store } = deskWith([footfall("a", "LF", 0, 1), footfall("z", "RF", 999)]);
    store.select("a");
    act({ do: "nudge", by: -1, end: "off" }, hands);
    act({ do: "nudge", by: 1, end: "on" }, hands);
    act({ do: "nudge", by: -1, end: "on" }, hands);
    store.select("z");
    act({ do: "nudge", by: 1, end: "on" }, hands);
    act({ do: "nudge", by: 1, end: "off" }, hands);
    expect(store.snapshot().marks).toEqual([footfall("a", "LF", 0, 1), footfall("z", "RF", 999)]);
    expect(store.snapshot().unsaved).toBe(0);
  });

  it("removes what is chosen, and with nothing chosen nothing", () => {
    const { hands, store } = deskWith(trot(1));
    act({ do: "delete" }, hands);
    expect(store.snapshot().marks).toHaveLength(4);
    store.choose(["LH0", "LF0"]);
    act({ do: "delete" }, hands);
    expect(store.snapshot().marks.map((m) => m.id)).toEqual(["RF0", "RH0"]);
    expect(store.snapshot().selected).toBeNull();
  });

  it("gives the chosen to another limb by the next hoof key, and takes any other key as a change of mind", () => {
    const { hands, store, asks } = deskWith(trot(1));
    act({ do: "relabel" }, hands);
    expect(asks.relabel).toHaveBeenLastCalledWith(false);
    store.choose(["LH0", "RH0"]);
    act({ do: "relabel" }, hands);
    expect(asks.relabel).toHaveBeenLastCalledWith(true);
    act({ do: "limb", limb: "RH" }, { ...hands, relabels: true });
    expect(store.snapshot().marks.map((m) => m.limb)).toEqual(["RH", "RF", "RH", "LF"]);
    expect(asks.relabel).toHaveBeenLastCalledWith(false);
    act({ do: "step", by: 1 }, { ...hands, relabels: true });
    expect(asks.relabel).toHaveBeenLastCalledWith(false);
    expect(store.snapshot().unsaved).toBe(1);
  });
});

describe("keys that speak of the bout", () => {
  it("knows the bout under the playhead, the last before it, or the first", () => {
    const { store, clock } = deskWith([], two);
    const at = (k: number) => {
      clock.goTo(k);
      return boutHere(store, clock)?.start_s;
    };
    expect([at(0), at(119), at(300), at(400), at(999)]).toEqual([0, 0, 0, 4, 4]);
  });

  it("counts bouts in true seconds where the footage is slowed", () => {
    const slow = { ...two, settings: { slow_factor: 4 } };
    const { store, clock } = deskWith([], slow);
    clock.goTo(999);
    // 9.99 s of the file are 2.5 s of the ride.
    expect(boutHere(store, clock)?.start_s).toBe(0);
  });

  it("chooses all footfalls of the bout, with a fore that lands just before its first hind", () => {
    const early = footfall("early", "RF", 397);
    const { hands, store, clock } = deskWith([...trot(2), early, footfall("in", "LH", 400)], two);
    clock.goTo(50);
    act({ do: "bout" }, hands);
    expect(store.snapshot().chosen.size).toBe(8);
    clock.goTo(450);
    act({ do: "bout" }, hands);
    expect([...store.snapshot().chosen]).toEqual(["early", "in"]);
  });

  it("changes left and right of the bout, or of what is chosen, and twice is as before", () => {
    const { hands, store } = deskWith(trot(2), two);
    const before = store.snapshot().marks;
    act({ do: "swap" }, hands);
    expect(
      store
        .snapshot()
        .marks.map((m) => m.limb)
        .slice(0, 4),
    ).toEqual(["RH", "LF", "LH", "RF"]);
    act({ do: "swap" }, hands);
    expect(store.snapshot().marks).toEqual(before);
    store.choose(["LH0", "RF0"]);
    act({ do: "swap" }, hands);
    expect(
      store
        .snapshot()
        .marks.map((m) => m.limb)
        .slice(0, 4),
    ).toEqual(["RH", "LF", "RH", "LF"]);
  });

  it("plays the bout over and over at a quarter, and stops at the second press", () => {
    const { hands, clock } = deskWith([], two);
    clock.goTo(410);
    act({ do: "loop" }, hands);
    expect(clock.snapshot().looping).toEqual({ from: 4_000_000, to: 5_200_000, rate: 0.25 });
    act({ do: "loop" }, hands);
    expect(clock.snapshot().looping).toBeNull();
  });

  it("goes through the speeds and round again", () => {
    const { hands, clock } = deskWith([]);
    const met = [1, 2, 3, 4].map(() => {
      act({ do: "speed" }, hands);
      return clock.snapshot().rate;
    });
    expect(met).toEqual([0.5, 0.25, 0.125, 1]);
  });

  it("goes to the next finding that asks for attention, and round again", () => {
    const findings = [
      { start_s: 1, fault: false },
      { start_s: 2, fault: true },
      { start_s: 6, fault: true },
    ];
    const { hands, clock, jump } = deskWith([], { findings, checks: [{ from_s: 3 }] });
    act({ do: "finding" }, hands);
    expect(jump).toHaveBeenLastCalledWith(2);
    clock.goTo(200);
    act({ do: "finding" }, hands);
    expect(jump).toHaveBeenLastCalledWith(6);
    clock.goTo(900);
    act({ do: "finding" }, hands);
    expect(jump).toHaveBeenLastCalledWith(1);
    act({ do: "check" }, hands);
    expect(jump).toHaveBeenLastCalledWith(3);
  });

  it("says where the clip begins and ends", () => {
    const { hands, store, clock } = deskWith([]);
    clock.goTo(20);
    act({ do: "begin" }, hands);
    clock.goTo(700);
    act({ do: "end" }, hands);
    expect(store.snapshot().desk.settings).toMatchObject({
      trim_from_us: frame(20),
      trim_to_us: frame(700),
    });
  });
});

describe("keys handed on", () => {
  it("asks the page for what is the page's", () => {
    const { hands, asks, view } = deskWith([]);
    for (const key of ["help", "ridden", "letter", "note", "unseen", "spoke", "ghost"] as const) {
      act({ do: key }, hands);
      expect(asks[key]).toHaveBeenCalledOnce();
    }
    act({ do: "aid" }, hands);
    act({ do: "askedAid" }, hands);
    expect(asks.aid.mock.calls).toEqual([[true], [false]]);
    act({ do: "zoom", by: 0.5 }, hands);
    act({ do: "pan", by: -0.5 }, hands);
    act({ do: "whole" }, hands);
    expect(view.zoom).toHaveBeenCalledWith(0.5);
    // Half of the two seconds that are shown.
    expect(view.pan).toHaveBeenCalledWith(-1_000_000);
    expect(view.whole).toHaveBeenCalledOnce();
  });

  it("keeps their meaning while nothing is foretold, and gives hoof keys another while it is", () => {
    const { hands, carry } = deskWith(trot(1));
    const focus = vi.spyOn(carry, "focus").mockImplementation(() => undefined);
    const nudge = vi.spyOn(carry, "nudge").mockImplementation(() => undefined);
    expect(carried({ do: "limb", limb: "LF" }, hands)).toBe(true);
    expect(carried({ do: "step", by: -1 }, hands)).toBe(true);
    expect(carried({ do: "nudge", by: 1, end: "on" }, hands)).toBe(true);
    expect(focus).toHaveBeenCalledWith("LF");
    expect(nudge.mock.calls).toEqual([[-1], [1]]);
    for (const key of ["undo", "play", "zoom"] as const) {
      expect(carried({ do: key, by: 1 } as never, hands)).toBe(false);
    }
    expect(carried({ do: "lift", limb: "LF" }, hands)).toBe(true);
  });
});
