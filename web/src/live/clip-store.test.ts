import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";

import { api, type Schemas } from "../api/client";
import { DeskStore, type Mark } from "./clip-store";

type Desk = Schemas["Desk"];

const desk = (revision: number, marks?: Mark[]): Desk =>
  ({
    revision,
    marks,
    tags: [],
    settings: { slow_factor: 1, mirrored: false },
    analysis: { bouts: [], findings: [] },
    wheels: [],
    can_undo: revision,
    can_redo: 0,
  }) as unknown as Desk;

const mark = (id: string, on_us: number): Mark => ({
  id,
  limb: "LH",
  on_us,
  off_us: null,
});

const add = (m: Mark) => [{ before: null, after: m }];

const answer = (data: Desk) => ({ data, response: new Response() });
const refusal = (status: number, code: string) => ({
  error: { code, title: "", status, detail: `refused: ${code}` },
  response: new Response(null, { status }),
});

/** Answers of the server to edits, in turn; the last one stands for all later ones. */
function server(...answers: (() => unknown)[]) {
  const sent: { edit_id: string }[] = [];
  vi.spyOn(api, "POST").mockImplementation(((_: string, request: { body: { edit_id: string } }) => {
    sent.push(request.body);
    const next = answers.length > 1 ? answers.shift() : answers[0];
    return Promise.resolve().then(() => next?.());
  }) as never);
  return sent;
}

describe("the desk's store", () => {
  beforeEach(() => {
    const drawer = new Map<string, string>();
    vi.stubGlobal("localStorage", {
      getItem: (k: string) => drawer.get(k) ?? null,
      setItem: (k: string, v: string) => drawer.set(k, v),
      removeItem: (k: string) => drawer.delete(k),
    });
    vi.useFakeTimers();
  });
  afterEach(() => {
    vi.useRealTimers();
    vi.restoreAllMocks();
    vi.unstubAllGlobals();
  });

  it("shows a mark at once and is saved when the server says so", async () => {
    server(() => answer(desk(1)));
    const store = new DeskStore(1, desk(0, []));
    store.change(add(mark("a", 5)));
    expect(store.snapshot().marks.map((m) => m.id)).toEqual(["a"]);
    expect(store.snapshot().unsaved).toBe(1);
    await vi.runAllTimersAsync();
    expect(store.snapshot()).toMatchObject({ unsaved: 0, trouble: null });
    expect(store.snapshot().desk.revision).toBe(1);
  });

  it("keeps what is not saved, says why, and sends the very same edit again", async () => {
    const away = () => {
      throw new TypeError("network");
    };
    const sent = server(
      away,
      () => refusal(507, "disk-full"),
      () => answer(desk(1)),
    );
    const store = new DeskStore(1, desk(0, []));
    store.change(add(mark("a", 5)));
    await vi.advanceTimersByTimeAsync(10);
    expect(store.snapshot().trouble).toContain("does not answer");
    await vi.advanceTimersByTimeAsync(1600);
    expect(store.snapshot().trouble).toContain("disk-full");
    expect(store.snapshot().unsaved).toBe(1);
    await vi.runAllTimersAsync();
    expect(store.snapshot()).toMatchObject({ unsaved: 0, trouble: null });
    expect(new Set(sent.map((e) => e.edit_id)).size).toBe(1);
    expect(sent).toHaveLength(3);
  });

  it("finds unsaved marks again after a reload", async () => {
    server(() => {
      throw new TypeError("network");
    });
    const before = new DeskStore(7, desk(0, []));
    const close = before.open();
    before.change(add(mark("a", 5)));
    await vi.advanceTimersByTimeAsync(10);
    close();
    const sent = server(() => answer(desk(1)));
    const after = new DeskStore(7, desk(0, [mark("b", 9)]));
    expect(after.snapshot().marks.map((m) => m.id)).toEqual(["a", "b"]);
    after.open();
    await vi.runAllTimersAsync();
    expect(sent).toHaveLength(1);
    expect(after.snapshot().unsaved).toBe(0);
  });

  it("takes what the server has when an edit was overtaken, and keeps the rest", async () => {
    server(
      () => refusal(409, "conflict"),
      () => answer(desk(3)),
    );
    vi.spyOn(api, "GET").mockResolvedValue(answer(desk(2, [mark("theirs", 1)])) as never);
    const store = new DeskStore(1, desk(0, [mark("old", 3)]));
    store.change([{ before: mark("old", 3), after: mark("old", 4) }]);
    store.change(add(mark("mine", 8)));
    await vi.runAllTimersAsync();
    expect(store.snapshot().marks.map((m) => m.id)).toEqual(["theirs", "mine"]);
    expect(store.snapshot().message).toContain("conflict");
  });

  it("counts and keeps settings and undo too, over a reload", async () => {
    vi.spyOn(api, "PUT").mockRejectedValue(new TypeError("network"));
    server(() => {
      throw new TypeError("network");
    });
    const before = new DeskStore(3, desk(4, [mark("a", 5)]));
    const close = before.open();
    before.changeSettings({ rein: "left" });
    before.undo();
    await vi.advanceTimersByTimeAsync(10);
    expect(before.snapshot().unsaved).toBe(2);
    close();
    const put = vi.spyOn(api, "PUT").mockResolvedValue(answer(desk(5, [mark("a", 5)])) as never);
    const sent = server(() => answer(desk(6, []))) as unknown as { revision: number }[];
    // Meanwhile another window has changed something else.
    const other = desk(4, [mark("a", 5)]);
    const settings = { ...other.settings, slow_factor: 4 };
    const after = new DeskStore(3, { ...other, settings });
    expect(after.snapshot().desk.settings).toMatchObject({ rein: "left", slow_factor: 4 });
    expect(after.snapshot().unsaved).toBe(2);
    after.open();
    await vi.runAllTimersAsync();
    const body = put.mock.calls[0]?.[1] as unknown as { body: { before: object; after: object } };
    expect(body.body.before).toMatchObject({ slow_factor: 1 });
    expect(body.body.after).toMatchObject({ slow_factor: 1, rein: "left" });
    expect(sent.map((b) => b.revision)).toEqual([5]);
    expect(after.snapshot()).toMatchObject({ unsaved: 0, marks: [] });
  });

  it("sends an undo that got no answer from the revision it was first sent from", async () => {
    const sent = server(
      () => {
        throw new TypeError("the answer is lost");
      },
      () => refusal(409, "conflict"),
    ) as unknown as { revision: number }[];
    vi.spyOn(api, "GET").mockResolvedValue(answer(desk(8, [])) as never);
    const store = new DeskStore(1, desk(7, [mark("a", 5)]));
    store.undo();
    await vi.runAllTimersAsync();
    expect(sent.map((b) => b.revision)).toEqual([7, 7]);
    expect(store.snapshot()).toMatchObject({ unsaved: 0, marks: [] });
  });

  it("takes in what another window did, and says what came or went", async () => {
    server(() => answer(desk(1)));
    const store = new DeskStore(1, desk(4, [mark("a", 5), mark("b", 9)]));
    const get = vi.spyOn(api, "GET");
    const elsewhere = (revision: number, marks: Mark[]) =>
      get.mockImplementation(((path: string) =>
        Promise.resolve(
          path.endsWith("/revision")
            ? { data: { revision }, response: new Response() }
            : answer(desk(revision, marks)),
        )) as never);
    elsewhere(4, [mark("a", 5), mark("b", 9)]);
    await store.look();
    expect(get).toHaveBeenCalledTimes(1);
    expect(store.snapshot().message).toBeNull();
    elsewhere(5, [mark("c", 1), mark("a", 5), mark("b", 9)]);
    await store.look();
    expect(store.snapshot().marks.map((m) => m.id)).toEqual(["c", "a", "b"]);
    expect(store.snapshot().message).toContain("1 footfall came from another window");
    elsewhere(6, [mark("c", 1)]);
    await store.look();
    expect(store.snapshot().message).toContain("2 footfalls were removed");
    store.dismiss();
    expect(store.snapshot().message).toBeNull();
    // Something that is no footfall changed: nothing to tell.
    elsewhere(7, [mark("c", 1)]);
    await store.look();
    expect(store.snapshot()).toMatchObject({ message: null, desk: { revision: 7 } });
    get.mockRejectedValue(new TypeError("network"));
    await store.look();
    expect(store.snapshot().desk.revision).toBe(7);
  });

  it("does not look while something of its own is on its way, nor once it is closed", async () => {
    server(() => {
      throw new TypeError("network");
    });
    const store = new DeskStore(1, desk(1, []));
    const get = vi.spyOn(api, "GET").mockRejectedValue(new TypeError("network"));
    store.change(add(mark("a", 5)));
    await store.look();
    expect(get).not.toHaveBeenCalled();
    const idle = new DeskStore(2, desk(1, []));
    idle.open()();
    await idle.look();
    expect(get).not.toHaveBeenCalled();
  });

  it("keeps an edit that the server fails at, offers it again, or lets it go", async () => {
    const failing = () => refusal(500, "internal");
    const sent = server(
      failing,
      failing,
      failing,
      () => answer(desk(2)),
      failing,
      failing,
      failing,
    );
    const store = new DeskStore(1, desk(0, []));
    store.change(add(mark("bad", 5)));
    store.change(add(mark("good", 9)));
    await vi.runAllTimersAsync();
    expect(store.snapshot()).toMatchObject({ unsaved: 1, aside: 1 });
    expect(store.snapshot().marks.map((m) => m.id)).toEqual(["bad", "good"]);
    expect(store.snapshot().trouble).toContain("internal");
    store.sendAgain();
    await vi.runAllTimersAsync();
    expect(store.snapshot()).toMatchObject({ unsaved: 1, aside: 1 });
    vi.spyOn(api, "GET").mockResolvedValue(answer(desk(2, [mark("good", 9)])) as never);
    await store.letGo();
    expect(store.snapshot()).toMatchObject({ unsaved: 0, aside: 0, trouble: null });
    expect(store.snapshot().marks.map((m) => m.id)).toEqual(["good"]);
    expect(sent).toHaveLength(7);
  });

  it("chooses one footfall, several, and one less of them", () => {
    const store = new DeskStore(1, desk(0, [mark("a", 1), mark("b", 2), mark("c", 3)]));
    const chosen = () => [...store.snapshot().chosen];
    store.select("b");
    store.alsoSelect("c");
    expect([chosen(), store.snapshot().selected]).toEqual([["b", "c"], "c"]);
    // One that is chosen and does not lead is let go of.
    store.alsoSelect("b");
    expect([chosen(), store.snapshot().selected]).toEqual([["c"], "b"]);
    store.choose(["a", "b", "c"]);
    expect(store.chosenMarks().map((m) => m.id)).toEqual(["a", "b", "c"]);
    expect(store.selectedMark()?.id).toBe("c");
    store.select(null);
    expect(chosen()).toEqual([]);
    expect(store.selectedMark()).toBeNull();
  });

  it("shows settings at once and holds the scale that is on its way", async () => {
    const put = vi.spyOn(api, "PUT").mockResolvedValue(answer(desk(1, [])) as never);
    const store = new DeskStore(1, desk(0, []));
    store.changeSettings({ rein: "left" });
    expect(store.snapshot().desk.settings.rein).toBe("left");
    const calibration = { place_sd_m: 0.1 } as Schemas["Calibration"];
    store.calibrate(calibration);
    expect(store.pendingCalibration()).toBe(calibration);
    await vi.runAllTimersAsync();
    expect((put.mock.calls as unknown as string[][]).map(([path]) => path)).toEqual([
      "/api/clips/{clip}/settings",
      "/api/clips/{clip}/calibration",
    ]);
    expect(store.pendingCalibration()).toBeNull();
    await store.saved();
    expect(store.snapshot().unsaved).toBe(0);
  });
});
