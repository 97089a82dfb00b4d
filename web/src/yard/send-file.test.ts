import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";

import { api } from "../api/client";
import { sendFile } from "./send-file";

const MIB = 1024 * 1024;

type Reply = { status: number; received?: number; code?: string } | "broken" | "never";

/** A server that has received a part, and answers pieces in turn. */
class Server {
  received = 0;
  readonly pieces: { from: number; bytes: number }[] = [];
  readonly names: string[] = [];
  finished = 0;
  deleted = 0;
  private readonly replies: Reply[];

  constructor(...replies: Reply[]) {
    this.replies = replies;
  }

  reply(from: number, bytes: number): Reply {
    this.pieces.push({ from, bytes });
    const next = this.replies.shift() ?? { status: 200 };
    if (next !== "broken" && next !== "never" && next.status === 200) {
      this.received = next.received ?? from + bytes;
      return { status: 200, received: this.received };
    }
    return next;
  }
}

let server: Server;

class FakeRequest {
  status = 0;
  response: unknown = null;
  responseType = "";
  readonly upload: { onprogress: ((e: { loaded: number }) => void) | null } = { onprogress: null };
  onload: (() => void) | null = null;
  onerror: (() => void) | null = null;
  onabort: (() => void) | null = null;
  private from = 0;

  open(_: string, url: string) {
    this.from = Number(new URL(url, "http://x").searchParams.get("from"));
  }

  setRequestHeader() {}

  abort() {
    this.onabort?.();
  }

  send(body: Blob) {
    const reply = server.reply(this.from, body.size);
    if (reply === "never") return;
    queueMicrotask(() => {
      if (reply === "broken") return this.onerror?.();
      this.upload.onprogress?.({ loaded: body.size / 2 });
      this.status = reply.status;
      this.response =
        reply.status === 200
          ? { received: reply.received }
          : { code: reply.code, title: "", status: reply.status, detail: `no: ${reply.code}` };
      this.onload?.();
    });
  }
}

function file(bytes: number): File {
  return new File([new Uint8Array(bytes)], "ride.mp4", { lastModified: 7 });
}

describe("sending a film", () => {
  beforeEach(() => {
    vi.useFakeTimers();
    vi.stubGlobal("XMLHttpRequest", FakeRequest);
    vi.spyOn(api, "POST").mockImplementation(((path: string, o: { body?: { id: string } }) => {
      if (path.endsWith("/finish")) {
        server.finished += 1;
        return Promise.resolve({ data: { id: 42 }, response: new Response() });
      }
      server.names.push(o.body?.id ?? "");
      return Promise.resolve({ data: { received: server.received }, response: new Response() });
    }) as never);
    vi.spyOn(api, "DELETE").mockImplementation((() => {
      server.deleted += 1;
      return Promise.resolve({ response: new Response(null, { status: 204 }) });
    }) as never);
  });
  afterEach(() => {
    vi.useRealTimers();
    vi.restoreAllMocks();
    vi.unstubAllGlobals();
  });

  it("goes in pieces that leave nothing out and nothing twice", async () => {
    server = new Server();
    const seen: number[] = [];
    const film = file(70 * MIB);
    const clip = await sendFile(3, film, new AbortController().signal, (b) => seen.push(b));
    expect(clip).toBe(42);
    expect(server.pieces).toEqual([
      { from: 0, bytes: 32 * MIB },
      { from: 32 * MIB, bytes: 32 * MIB },
      { from: 64 * MIB, bytes: 6 * MIB },
    ]);
    expect(seen.at(-1)).toBe(film.size);
    expect(seen).toEqual([...seen].sort((a, b) => a - b));
    expect(server.finished).toBe(1);
  });

  it("goes on where the server says it broke off", async () => {
    server = new Server(
      "broken",
      { status: 409, code: "wrong-place" },
      { status: 200, received: 5 * MIB },
    );
    const sent = sendFile(3, file(8 * MIB), new AbortController().signal, () => {});
    await vi.runAllTimersAsync();
    expect(await sent).toBe(42);
    expect(server.pieces.map((p) => p.from)).toEqual([0, 0, 0, 5 * MIB]);
    // It is the same upload each time it is asked for, also after the page was closed.
    expect(new Set(server.names).size).toBe(1);
    const [first] = server.names;
    server = new Server();
    server.received = 6 * MIB;
    await sendFile(3, file(8 * MIB), new AbortController().signal, () => {});
    expect(server.names).toEqual([first]);
    expect(server.pieces).toEqual([{ from: 6 * MIB, bytes: 2 * MIB }]);
    await sendFile(4, file(8 * MIB), new AbortController().signal, () => {});
    expect(server.names[1]).not.toBe(first);
  });

  it("gives up at once on what will never be taken, and in the end on a dead server", async () => {
    server = new Server({ status: 507, code: "disk-full" });
    const full = sendFile(null, file(MIB), new AbortController().signal, () => {});
    await expect(full).rejects.toThrow("disk-full");
    expect(server.pieces).toHaveLength(1);
    server = new Server(...Array.from({ length: 99 }, () => "broken" as const));
    const dead = sendFile(null, file(MIB), new AbortController().signal, () => {});
    const told = expect(dead).rejects.toThrow("does not answer");
    await vi.runAllTimersAsync();
    await told;
    expect(server.pieces.length).toBe(9);
    expect(server.finished).toBe(0);
  });

  it("is taken back when it is cancelled", async () => {
    server = new Server("never");
    const stop = new AbortController();
    const sent = sendFile(3, file(MIB), stop.signal, () => {});
    const told = expect(sent).rejects.toThrow("cancelled");
    await vi.advanceTimersByTimeAsync(10);
    stop.abort();
    await vi.runAllTimersAsync();
    await told;
    expect([server.deleted, server.finished]).toEqual([1, 0]);
  });
});
