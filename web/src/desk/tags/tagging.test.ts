import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";

import { deskWith, frame, trot } from "../../../tests/desk-kit";
import { putTag, removeTag, saveRidden, stretchHere, toggleUnseen } from "./tagging";

beforeEach(() => vi.useFakeTimers());
afterEach(() => {
  vi.useRealTimers();
  vi.restoreAllMocks();
  vi.unstubAllGlobals();
});

const bout = (start_s: number, end_s: number, gait: string) => ({
  ...{ start_s, end_s, gait, label: `${gait} from ${start_s}` },
});

describe("what is said of a moment", () => {
  it("stands on the frame the playhead goes to, in order of time, and can be taken away", () => {
    const { store, clock } = deskWith([]);
    clock.goTo(50);
    putTag(store, clock, { kind: "letter", letter: "B" });
    clock.goTo(20);
    putTag(store, clock, { kind: "note", text: "before" });
    const { tags } = store.snapshot();
    expect(tags.map((t) => t.from_us)).toEqual([frame(20), frame(50)]);
    const [note] = tags;
    if (note) removeTag(store, note);
    expect(store.snapshot().tags).toMatchObject([{ what: { letter: "B" } }]);
    expect(store.snapshot().unsaved).toBe(3);
  });

  it("a stretch out of view begins and ends by the same key; backwards it begins another", () => {
    const { store, clock } = deskWith([]);
    const at = (k: number) => {
      clock.goTo(k);
      toggleUnseen(store, clock);
    };
    at(100);
    at(200);
    expect(store.snapshot().tags).toMatchObject([{ from_us: frame(100), to_us: frame(200) }]);
    at(300);
    at(250);
    expect(store.snapshot().tags.map((t) => [t.from_us, t.to_us])).toEqual([
      [frame(100), frame(200)],
      [frame(250), null],
      [frame(300), null],
    ]);
  });
});

describe("the stretch that is spoken of", () => {
  it("is nothing where nothing is marked", () => {
    const { store, clock } = deskWith([]);
    expect(stretchHere(store, clock)).toBeNull();
  });

  it("is the bout here, in the file's time", () => {
    const settings = { slow_factor: 2 };
    const bouts = [bout(0, 1, "walk"), bout(1.5, 3, "trot")];
    const { store, clock } = deskWith([], { bouts, settings });
    clock.goTo(350);
    expect(stretchHere(store, clock)).toMatchObject({ from: 3_000_000, to: 6_000_000, tag: null });
    expect(stretchHere(store, clock)?.words).toBe("From 1.50 s to 3.00 s. Found: trot from 1.5.");
  });

  it("goes over flying changes, and ends where the canter does", () => {
    const bouts = [
      bout(0, 1, "trot"),
      bout(1, 2, "canter"),
      bout(2.02, 3, "canter"),
      bout(3, 4, "canter"),
      bout(4.2, 5, "canter"),
    ];
    const { store, clock } = deskWith([], { bouts });
    for (const k of [110, 250, 390]) {
      clock.goTo(k);
      expect(stretchHere(store, clock)).toMatchObject({ from: 1_000_000, to: 4_000_000 });
    }
    clock.goTo(450);
    expect(stretchHere(store, clock)).toMatchObject({ from: 4_200_000, to: 5_000_000 });
    clock.goTo(50);
    expect(stretchHere(store, clock)).toMatchObject({ from: 0, to: 1_000_000 });
  });

  it("is what is chosen, from five footfalls on", () => {
    const { store, clock } = deskWith(trot(3), { bouts: [bout(0, 1.8, "trot")] });
    store.choose(["LH1", "RF1", "RH1", "LF1"]);
    expect(stretchHere(store, clock)).toMatchObject({ from: 0, to: 1_800_000 });
    store.choose(["LH1", "RF1", "RH1", "LF1", "LH2"]);
    expect(stretchHere(store, clock)).toMatchObject({ from: frame(60), to: frame(120) });
  });

  it("is what was said here before, to be said better", () => {
    const { store, clock } = deskWith(trot(3), { bouts: [bout(0, 1.8, "trot")] });
    const first = stretchHere(store, clock);
    if (!first) throw new Error("a bout is here");
    saveRidden(store, first, { movement: "circle-20" });
    clock.goTo(90);
    const again = stretchHere(store, clock);
    expect(again).toMatchObject({ from: 0, to: 1_800_000, value: { movement: "circle-20" } });
    if (!again) throw new Error("it was said here");
    saveRidden(store, again, { movement: "circle-10" });
    expect(store.snapshot().tags).toHaveLength(1);
    expect(store.snapshot().tags[0]?.what).toMatchObject({ movement: "circle-10", kind: "ridden" });
    // Behind its end nothing was said.
    clock.goTo(180);
    expect(stretchHere(store, clock)?.tag).toBeNull();
  });
});
