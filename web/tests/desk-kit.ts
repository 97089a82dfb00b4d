import { vi } from "vitest";

import { api, type Schemas } from "../src/api/client";
import type { Asks, Hands } from "../src/desk/acts";
import { Carry } from "../src/live/carry";
import { DeskStore, type Mark } from "../src/live/clip-store";
import { FrameClock } from "../src/live/frame-clock";
import { DEFAULT_KEYS } from "../src/live/keys";
import { Looking } from "../src/live/looking";
import { Marking } from "../src/live/marking";
import type { View } from "../src/strip/view";

type Limb = Schemas["LimbCode"];

/** Start of a frame at 100 frames a second, µs. */
export const frame = (k: number) => k * 10_000;

/** A footfall on a frame, with the frame it leaves the ground on. */
export const footfall = (id: string, limb: Limb, on: number, off?: number): Mark => ({
  id,
  limb,
  on_us: frame(on),
  off_us: off === undefined ? null : frame(off),
});

/** Strides of a trot of 60 frames, from the left hind on, marked with stances of 30 frames. */
export function trot(strides: number): Mark[] {
  const beats: [Limb, number][] = [
    ["LH", 0],
    ["RF", 1],
    ["RH", 30],
    ["LF", 31],
  ];
  return Array.from({ length: strides }, (_, k) =>
    beats.map(([limb, at]) => footfall(`${limb}${k}`, limb, 60 * k + at, 60 * k + at + 30)),
  ).flat();
}

/** The same marks, suggested between frames and waiting for an answer. */
export const suggested = (marks: readonly Mark[]): Mark[] =>
  marks.map((m) => ({
    ...m,
    on_us: m.on_us + 2_000,
    origin: { how: "suggested", detector: "picture", sd_s: 0.004, sure: 0.95, answer: "open" },
  }));

type Said = {
  bouts?: { start_s: number; end_s: number; gait?: string; label?: string }[];
  findings?: { start_s: number; fault: boolean }[];
  checks?: { from_s: number }[];
  doubtful?: string[];
  missed?: Schemas["Missed"][];
  settings?: Partial<Schemas["ClipSettings"]>;
};

/** What the server says of a clip with these marks. */
export function deskOf(marks: readonly Mark[], said: Said = {}): Schemas["Desk"] {
  return {
    revision: 1,
    marks,
    tags: [],
    settings: { slow_factor: 1, mirrored: false, ...said.settings },
    analysis: { bouts: said.bouts ?? [], findings: said.findings ?? [] },
    checks: said.checks ?? [],
    wheels: [],
    unlooked: [],
    found: said.doubtful ? { says: "", doubtful: said.doubtful, missed: said.missed ?? [] } : null,
    can_undo: 0,
    can_redo: 0,
  } as unknown as Schemas["Desk"];
}

/** A desk without a screen: 1,000 frames, no footage, a server that takes what it is sent and
 * keeps it to itself. */
export function deskWith(marks: readonly Mark[], said: Said = {}) {
  const drawer = new Map<string, string>();
  vi.stubGlobal("localStorage", {
    getItem: (k: string) => drawer.get(k) ?? null,
    setItem: (k: string, v: string) => drawer.set(k, v),
    removeItem: (k: string) => drawer.delete(k),
  });
  vi.spyOn(api, "POST").mockReturnValue(new Promise(() => undefined) as never);
  vi.spyOn(api, "PUT").mockReturnValue(new Promise(() => undefined) as never);
  const store = new DeskStore(1, deskOf(marks, said));
  const clock = new FrameClock(Array.from({ length: 1000 }, (_, k) => frame(k)));
  const marking = new Marking(clock, store);
  const carry = new Carry(1, clock, store);
  const looking = new Looking(1, clock, store);
  const view = { from: 0, to: 2_000_000, zoom: vi.fn(), pan: vi.fn(), whole: vi.fn() };
  const asks = Object.fromEntries(
    ["help", "ridden", "aid", "letter", "note", "unseen", "spoke", "ghost", "relabel"].map(
      (name) => [name, vi.fn()],
    ),
  ) as Record<keyof Asks, ReturnType<typeof vi.fn>>;
  const jump = vi.fn();
  const hands: Hands = {
    ...{ clip: 1, clock, store, marking, carry, looking, keys: DEFAULT_KEYS, jump },
    ...{ view: view as unknown as View, asks: asks as unknown as Asks },
    ...{ relabels: false, off: false },
  };
  return { hands, store, clock, marking, carry, looking, view, asks, jump };
}
