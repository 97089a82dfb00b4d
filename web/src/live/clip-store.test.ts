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
  tap_rate: null,
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
});
