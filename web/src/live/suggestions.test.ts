import { afterEach, describe, expect, it, vi } from "vitest";

import { deskWith, frame, suggested, trot } from "../../tests/desk-kit";
import { api } from "../api/client";
import { act, looked } from "../desk/acts";
import { nextStride, standing } from "./suggestions";

afterEach(() => {
  vi.restoreAllMocks();
  vi.unstubAllGlobals();
});

const states = (marks: Parameters<typeof nextStride>[0]) => marks.map(standing).join(" ");

describe("a stride of suggestions", () => {
  it("ends before a limb comes round again, and leaves out what is answered", () => {
    const marks = suggested(trot(3));
    expect(nextStride(marks, -1).map((m) => m.id)).toEqual(["LH0", "RF0", "RH0", "LF0"]);
    expect(nextStride(marks, frame(5)).map((m) => m.id)).toEqual(["RH0", "LF0", "LH1", "RF1"]);
    const taken = marks.map((m, k) => (k < 2 ? { ...m, origin: { how: "stepped" as const } } : m));
    expect(nextStride(taken, -1)[0]?.id).toBe("RH0");
  });
});

describe("keys that answer suggestions", () => {
  it("one key takes a footfall that was looked at and goes on to the next, in the picture too", () => {
    const { hands, store, clock } = deskWith(suggested(trot(1)));
    act({ do: "take" }, hands);
    act({ do: "take" }, hands);
    expect(states(store.snapshot().marks)).toBe("seen seen open open");
    expect(store.snapshot().selected).toBe("RH0");
    expect(clock.target()).toBe(frame(30));
  });

  it("one key takes a bout without a look at each, with what lies before and after it", () => {
    const bouts = [
      { start_s: 0.6, end_s: 1.2 },
      { start_s: 1.8, end_s: 3 },
    ];
    const { hands, store, clock } = deskWith(suggested(trot(5)), { bouts });
    act({ do: "takeBout" }, hands);
    expect(states(store.snapshot().marks)).toBe(
      [...Array<string>(12).fill("unlooked"), ...Array<string>(8).fill("open")].join(" "),
    );
    expect(clock.target()).toBe(frame(180));
    act({ do: "takeBout" }, hands);
    expect(store.snapshot().marks.every((m) => standing(m) === "unlooked")).toBe(true);
  });

  it("carrying on shows the stride that was found and takes it with its changes as one edit", async () => {
    const { hands, store, carry } = deskWith(suggested(trot(2)));
    const sent = vi.spyOn(store, "change");
    await carry.on();
    expect(carry.snapshot().marks.map((m) => m.id)).toEqual(["LH0", "RF0", "RH0", "LF0"]);
    carry.focus("RF");
    carry.nudge(2);
    await carry.on();
    expect(sent).toHaveBeenCalledTimes(1);
    const { marks } = store.snapshot();
    expect(states(marks)).toBe("seen seen seen seen open open open open");
    expect(marks.find((m) => m.id === "RF0")).toMatchObject({
      on_us: frame(3),
      origin: { how: "stepped" },
    });
    expect(carry.snapshot().marks[0]?.id).toBe("LH1");
    // A limb left out of a stride that was found was no footfall.
    carry.focus("LF");
    carry.drop();
    expect(store.snapshot().marks.some((m) => m.id === "LF1")).toBe(false);
    act({ do: "release" }, hands);
    expect(states(store.snapshot().marks).endsWith("open open open")).toBe(true);
  });

  it("near and far are changed by one key, and wait for their answer as before", () => {
    const bouts = [{ start_s: 0, end_s: 2 }];
    const { hands, store } = deskWith(suggested(trot(2)), { bouts });
    act({ do: "swap" }, hands);
    const { marks } = store.snapshot();
    expect(marks.slice(0, 4).map((m) => m.limb)).toEqual(["RH", "LF", "LH", "RF"]);
    expect(marks.every((m) => standing(m) === "open")).toBe(true);
  });
});

describe("looking at the doubtful", () => {
  it("shows one after the other; what is left stays, what is moved is the coach's own", () => {
    const doubtful = ["RF0", "LH1", "RH1"];
    const { hands, store, looking, clock } = deskWith(suggested(trot(2)), { doubtful });
    act({ do: "look" }, hands);
    expect(looking.snapshot()).toMatchObject({ mark: { id: "RF0" }, left: 2 });
    expect(clock.target()).toBe(frame(1));
    // Left as it was.
    expect(looked({ do: "look" }, hands)).toBe(true);
    expect(looking.snapshot()).toMatchObject({ mark: { id: "LH1" }, left: 1 });
    looked({ do: "step", by: -1 }, hands);
    looked({ do: "take" }, hands);
    looked({ do: "delete" }, hands);
    expect(looking.active).toBe(false);
    const { marks } = store.snapshot();
    const by = (id: string) => marks.find((m) => m.id === id);
    expect(by("RF0")).toMatchObject({ origin: { answer: "open" } });
    expect(by("LH1")).toMatchObject({ on_us: frame(59), origin: { how: "stepped" } });
    expect(by("RH1")).toBeUndefined();
  });

  it("shows where one was missed, and puts it there once it is taken", () => {
    const found = suggested(trot(3))
      .filter((m) => m.id !== "RF1")
      .map((m, k) => ({ ...m, hoof: { x_px: 100 + 10 * k, y_px: 50 } }));
    const missed = [
      { limb: "RF" as const, at_us: frame(61) },
      { limb: "LH" as const, at_us: frame(180) },
    ];
    const { hands, store, looking, clock } = deskWith(found, { doubtful: ["LF2"], missed });
    act({ do: "look" }, hands);
    expect(looking.snapshot()).toMatchObject({ mark: { limb: "RF" }, missed: true, left: 2 });
    // Between LF0 at frame 31.2 and LF1 at 91.2, at 130 and 160 pixels.
    expect(looking.snapshot().mark?.hoof?.x_px).toBeCloseTo(144.9, 3);
    expect(clock.target()).toBe(frame(61));
    looked({ do: "step", by: 2 }, hands);
    looked({ do: "take" }, hands);
    expect(store.snapshot().marks.filter((m) => m.limb === "RF")).toMatchObject([
      { id: "RF0" },
      { on_us: frame(63), hoof: null, origin: { how: "stepped" } },
      { id: "RF2" },
    ]);
    expect(looking.snapshot()).toMatchObject({ mark: { id: "LF2" }, missed: false, left: 1 });
    looked({ do: "look" }, hands);
    // One that is none there is passed by, and not shown again.
    looked({ do: "delete" }, hands);
    expect(looking.snapshot().message).toContain("one is left as found");
    expect(store.snapshot().marks).toHaveLength(12);
  });

  it("a limb that the coach has said makes the others told anew", async () => {
    const { hands, store } = deskWith(suggested(trot(2)), { doubtful: ["RF0"] });
    vi.spyOn(store, "saved").mockResolvedValue();
    const other = store.snapshot().marks.find((m) => m.id === "LF0");
    const get = vi.spyOn(api, "GET").mockResolvedValue({
      data: { changes: [{ before: other, after: { ...other, limb: "RF" } }] },
      response: new Response(),
    } as never);
    act({ do: "look" }, hands);
    looked({ do: "limb", limb: "LF" }, hands);
    looked({ do: "take" }, hands);
    await vi.waitFor(() =>
      expect(store.snapshot().marks.find((m) => m.id === "LF0")?.limb).toBe("RF"),
    );
    expect(get).toHaveBeenCalledTimes(1);
    expect(store.snapshot().marks.find((m) => m.id === "RF0")).toMatchObject({
      limb: "LF",
      origin: { answer: "looked" },
    });
  });
});
