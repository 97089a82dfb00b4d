import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";

import { Refused, Unreachable } from "../api/client";
import { Outbox } from "./outbox";
import { readKept, settled, type Task } from "./tasks";

const undo = (id: string): Task => ({ id, kind: "undo" });
const refusal = (status: number) =>
  new Refused({ code: "c", title: "", status, detail: `answer ${status}` });

/** A server that answers each task by what is said of it, in turn; then takes it. */
function server(says: Record<string, (Error | null)[]>) {
  const sent: string[] = [];
  const refused: string[] = [];
  const post = {
    send: (task: Task) => {
      sent.push(task.id);
      const next = says[task.id]?.shift();
      return next ? Promise.reject(next) : Promise.resolve();
    },
    refused: (task: Task) => {
      refused.push(task.id);
      return Promise.resolve();
    },
  };
  return { sent, refused, post };
}

const ids = (tasks: readonly Task[]) => tasks.map((t) => t.id);

describe("the outbox", () => {
  let drawer: Map<string, string>;
  beforeEach(() => {
    drawer = new Map();
    vi.stubGlobal("localStorage", {
      getItem: (k: string) => drawer.get(k) ?? null,
      setItem: (k: string, v: string) => drawer.set(k, v),
      removeItem: (k: string) => drawer.delete(k),
    });
    vi.useFakeTimers();
  });
  afterEach(() => {
    vi.useRealTimers();
    vi.unstubAllGlobals();
  });

  it("sets aside what the server fails at, sends the rest, and offers it again", async () => {
    const { sent, post } = server({ bad: [1, 2, 3].map(() => refusal(500)) });
    const box = new Outbox("d", post);
    for (const id of ["bad", "good", "better"]) box.add(undo(id));
    await vi.runAllTimersAsync();
    expect(sent).toEqual(["bad", "bad", "bad", "good", "better"]);
    expect(ids(box.snapshot().aside)).toEqual(["bad"]);
    expect(box.snapshot().trouble).toBe("answer 500");
    expect(ids(readKept(drawer.get("d") ?? null).aside)).toEqual(["bad"]);
    // A new page offers it first of all; the server has recovered.
    const later = new Outbox("d", post);
    later.add(undo("new"));
    await vi.runAllTimersAsync();
    expect(sent.slice(5)).toEqual(["bad", "new"]);
    expect(later.snapshot()).toMatchObject({ waiting: [], aside: [], trouble: null });
    expect(drawer.size).toBe(0);
  });

  it("keeps aside what may rest on something set aside, and gives up only when told", async () => {
    const { refused, post } = server({
      first: [1, 2, 3].map(() => refusal(500)),
      second: [refusal(409)],
    });
    const box = new Outbox("d", post);
    box.add(undo("first"));
    box.add(undo("second"));
    await vi.runAllTimersAsync();
    expect(ids(box.snapshot().aside)).toEqual(["first", "second"]);
    expect(refused).toEqual([]);
    box.letGo();
    expect(drawer.size).toBe(0);
  });

  it("lets everything wait, in order, while the server is away or its disk is full", async () => {
    const { sent, post } = server({ a: [new Unreachable(), refusal(507), refusal(503)] });
    const box = new Outbox("d", post);
    box.add(undo("a"));
    box.add(undo("b"));
    await vi.advanceTimersByTimeAsync(100);
    expect(box.snapshot().trouble).toContain("does not answer");
    await vi.advanceTimersByTimeAsync(1500);
    expect(box.snapshot().trouble).toBe("answer 507");
    await vi.runAllTimersAsync();
    expect(sent).toEqual(["a", "a", "a", "a", "b"]);
    expect(box.snapshot()).toMatchObject({ waiting: [], aside: [], trouble: null });
  });

  it("keeps what is for another yard, and what is for a clip that is not there", async () => {
    const other = new Refused({ code: "other-yard", title: "", status: 409, detail: "another" });
    const { sent, refused, post } = server({ a: [other], b: [refusal(404)] });
    const box = new Outbox("d", post);
    box.add(undo("a"));
    box.add(undo("b"));
    await vi.advanceTimersByTimeAsync(100);
    expect(box.snapshot()).toMatchObject({ trouble: "another", aside: [] });
    expect(ids(readKept(drawer.get("d") ?? null).waiting)).toEqual(["a", "b"]);
    await vi.runAllTimersAsync();
    expect([sent, refused]).toEqual([["a", "a", "b"], []]);
    expect(ids(box.snapshot().aside)).toEqual(["b"]);
    expect(ids(readKept(drawer.get("d") ?? null).aside)).toEqual(["b"]);
  });

  it("waits until somebody signs in, and keeps what another may not save", async () => {
    const { sent, refused, post } = server({ a: [refusal(401)], b: [refusal(403)] });
    const box = new Outbox("d", post);
    box.add(undo("a"));
    box.add(undo("b"));
    await vi.advanceTimersByTimeAsync(100);
    expect(ids(readKept(drawer.get("d") ?? null).waiting)).toEqual(["a", "b"]);
    await vi.runAllTimersAsync();
    expect([sent, refused]).toEqual([["a", "a", "b"], []]);
    expect(ids(readKept(drawer.get("d") ?? null).aside)).toEqual(["b"]);
  });

  it("drops what is refused for good, once, and goes on", async () => {
    const { sent, refused, post } = server({ a: [refusal(422)] });
    const box = new Outbox("d", post);
    box.add(undo("a"));
    box.add(undo("b"));
    await vi.runAllTimersAsync();
    expect([sent, refused]).toEqual([["a", "b"], ["a"]]);
    expect(drawer.size).toBe(0);
  });

  it("leaves in the browser what another window keeps there", async () => {
    const away = server({ theirs: Array.from({ length: 9 }, () => new Unreachable()) });
    const theirs = new Outbox("d", away.post);
    theirs.add(undo("theirs"));
    await vi.advanceTimersByTimeAsync(10);
    theirs.close();
    const mine = new Outbox("d2", server({}).post);
    mine.add(undo("mine"));
    await vi.runAllTimersAsync();
    const same = new Outbox("d", server({}).post);
    theirs.add(undo("after"));
    same.add(undo("own"));
    await vi.runAllTimersAsync();
    expect(ids(readKept(drawer.get("d") ?? null).waiting)).toEqual(["after"]);
  });
});

describe("what the browser has kept", () => {
  it("is read also as an earlier page wrote it", () => {
    const mark = { id: "m", limb: "LF", on_us: 5, off_us: null, tap_rate: 0.5 };
    const stepped = { ...mark, id: "n", tap_rate: null };
    const former = [{ edit_id: "e", changes: [{ before: stepped, after: mark }], tags: [] }];
    const { waiting, aside } = readKept(JSON.stringify(former));
    expect(aside).toEqual([]);
    expect(waiting[0]).toMatchObject({ kind: "edit", edit: { edit_id: "e" } });
    const change = waiting[0]?.kind === "edit" ? waiting[0].edit.changes[0] : undefined;
    expect(change?.after).toMatchObject({ id: "m", origin: { how: "tapped", rate: 0.5 } });
    expect(change?.before).not.toHaveProperty("tap_rate");
    expect(readKept("{nonsense")).toEqual({ waiting: [], aside: [] });
    expect(readKept(null)).toEqual({ waiting: [], aside: [] });
  });

  it("changes only those settings that were changed", () => {
    const was = { slow_factor: 1, rein: "left", mirrored: false };
    const now = { slow_factor: 4, rein: "left", mirrored: true };
    const after = { ...was, rein: "right" };
    expect(settled(now, was, after)).toEqual({ slow_factor: 4, rein: "right", mirrored: true });
  });
});
