import type { Limb } from "../ui/limbs";
import type { Carry } from "../live/carry";
import type { DeskStore, Mark } from "../live/clip-store";
import { type FrameClock, nearest } from "../live/frame-clock";
import type { Action, KeyMap } from "../live/keys";
import type { Marking } from "../live/marking";
import { tellAnew, type Looking } from "../live/looking";
import { neighbour, swapped } from "../live/marks";
import { answered, isOpen } from "../live/suggestions";
import type { View } from "../strip/view";
import { RATES } from "./transport";

/** What keys ask of the page itself. */
export type Asks = {
  help: () => void;
  ridden: () => void;
  aid: (again: boolean) => void;
  letter: () => void;
  note: () => void;
  unseen: () => void;
  spoke: () => void;
  ghost: () => void;
  /** Whether the next hoof key says which limb the chosen footfalls belong to. */
  relabel: (on: boolean) => void;
};

export type Hands = {
  clip: number;
  looking: Looking;
  clock: FrameClock;
  store: DeskStore;
  marking: Marking;
  carry: Carry;
  keys: KeyMap;
  view: View;
  jump: (seconds: number) => void;
  asks: Asks;
  /** The next hoof key relabels. */
  relabels: boolean;
  /** A dialog has the keys. */
  off: boolean;
};

/** Keys while a stride is foretold; false for those that keep their meaning. */
export function carried(action: Action, { carry }: Hands): boolean {
  const late = ["limb", "step", "nudge", "swap", "delete", "take"].includes(action.do);
  if (carry.waiting && late) return true;
  switch (action.do) {
    case "limb":
      carry.focus(action.limb);
      return true;
    case "step":
      carry.nudge(action.by);
      return true;
    case "nudge":
      carry.nudge(action.by);
      return true;
    case "swap":
      carry.swap();
      return true;
    case "delete":
      carry.drop();
      return true;
    case "take":
      void carry.on();
      return true;
    case "release":
      carry.stop();
      return true;
    case "takeBout":
      carry.stop();
      return false;
    case "lift":
    case "footfall":
      return true;
    default:
      return false;
  }
}

/** Keys while a doubtful suggestion is on screen; false for those that keep their meaning. */
export function looked(action: Action, { looking }: Hands): boolean {
  switch (action.do) {
    case "take":
    case "carry":
      looking.take();
      return true;
    case "look":
      looking.next();
      return true;
    case "limb":
      looking.relabel(action.limb);
      return true;
    case "step":
    case "nudge":
      looking.nudge(action.by);
      return true;
    case "swap":
      looking.swap();
      return true;
    case "delete":
      looking.remove();
      return true;
    case "release":
      looking.stop();
      return true;
    case "takeBout":
      looking.stop();
      return false;
    case "lift":
    case "footfall":
    case "relabel":
      return true;
    default:
      return false;
  }
}

/** Does what a key asks for. */
export function act(action: Action, hands: Hands): void {
  const { clock, store, marking, carry, looking, view, asks, relabels, jump } = hands;
  if (relabels && action.do !== "limb") asks.relabel(false);
  switch (action.do) {
    case "limb":
      if (!relabels) return marking.press(action.limb);
      asks.relabel(false);
      return relabel(hands.clip, store, action.limb);
    case "lift":
      return marking.lift(action.limb);
    case "zoom":
      return view.zoom(action.by);
    case "pan":
      return view.pan(action.by * (view.to - view.from));
    case "whole":
      return view.whole();
    case "step":
      return clock.step(action.by);
    case "play":
      return clock.toggle();
    case "speed": {
      const k = RATES.indexOf(clock.snapshot().rate as (typeof RATES)[number]);
      return clock.setRate(RATES[(k + 1) % RATES.length] ?? 1);
    }
    case "footfall":
      return footfall(action.to, action.also ?? false, clock, store);
    case "nudge":
      return nudge(action.by, action.end, clock, store);
    case "delete": {
      const chosen = store.chosenMarks();
      if (chosen.length === 0) return;
      store.change(chosen.map((m) => ({ before: m, after: null })));
      return store.select(null);
    }
    case "relabel":
      return asks.relabel(store.snapshot().chosen.size > 0);
    case "swap": {
      const { chosen } = store.snapshot();
      const open = openHere(clock, store);
      const bout = open.length > 0 ? open : ofBout(store, clock);
      const marks = chosen.size > 1 ? store.chosenMarks() : bout;
      return marks.length > 0 ? store.change(swapped(marks)) : undefined;
    }
    case "bout":
      return store.choose(ofBout(store, clock).map((m) => m.id));
    case "carry":
      looking.stop();
      return void carry.on();
    case "look":
      carry.stop();
      return looking.next();
    case "take":
      return takeOne(clock, store);
    case "takeBout":
      return takeBout(clock, store);
    case "begin":
      return store.changeSettings({ trim_from_us: clock.now() });
    case "end":
      return store.changeSettings({ trim_to_us: clock.now() });
    case "undo":
      return store.undo();
    case "redo":
      return store.redo();
    case "release":
      if (clock.snapshot().looping) clock.loop(null);
      carry.stop();
      looking.stop();
      return store.select(null);
    case "finding": {
      const findings = store.snapshot().desk.analysis.findings;
      const here = seconds(store, clock);
      const next = findings.find((f) => f.fault && f.start_s > here + 1e-4) ?? findings[0];
      return next ? jump(next.start_s) : undefined;
    }
    case "check": {
      const { checks } = store.snapshot().desk;
      const here = seconds(store, clock);
      const next = checks.find((c) => c.from_s > here + 1e-4) ?? checks[0];
      return next ? jump(next.from_s) : undefined;
    }
    case "loop": {
      if (clock.snapshot().looping) return clock.loop(null);
      const bout = boutHere(store, clock);
      const us = store.snapshot().desk.settings.slow_factor * 1e6;
      if (!bout) return;
      return clock.loop({ from: bout.start_s * us, to: bout.end_s * us, rate: 0.25 });
    }
    case "ridden":
      return asks.ridden();
    case "aid":
      return asks.aid(true);
    case "askedAid":
      return asks.aid(false);
    case "letter":
      return asks.letter();
    case "note":
      return asks.note();
    case "unseen":
      return asks.unseen();
    case "spoke":
      return asks.spoke();
    case "ghost":
      return asks.ghost();
    case "help":
      return asks.help();
  }
}

/** Where the playhead goes or is, true seconds. */
function seconds(store: DeskStore, clock: FrameClock): number {
  return clock.target() / 1e6 / store.snapshot().desk.settings.slow_factor;
}

/** The bout under the playhead, or the last before it. */
export function boutHere(store: DeskStore, clock: FrameClock) {
  const { bouts } = store.snapshot().desk.analysis;
  const here = seconds(store, clock);
  return bouts.findLast((b) => b.start_s <= here + 1e-6) ?? bouts[0];
}

/** Footfalls of the bout under the playhead. */
function ofBout(store: DeskStore, clock: FrameClock) {
  const bout = boutHere(store, clock);
  const { marks, desk } = store.snapshot();
  const us = desk.settings.slow_factor * 1e6;
  // A fore may land a little before the hind that begins its stride.
  const early = bout ? 0.05 * us : 0;
  return marks.filter(
    (m) => bout && m.on_us >= bout.start_s * us - early && m.on_us < bout.end_s * us - early,
  );
}

function relabel(clip: number, store: DeskStore, limb: Limb): void {
  const wrong = store.chosenMarks().filter((m) => m.limb !== limb);
  if (wrong.length === 0) return;
  const after = (m: Mark) => ({ ...answered(m, "looked"), limb });
  store.change(wrong.map((m) => ({ before: m, after: after(m) })));
  if (wrong.some(isOpen)) void tellAnew(clip, store);
}

/** Takes the chosen suggestions, or the one by the playhead, and goes on to the next. */
function takeOne(clock: FrameClock, store: DeskStore): void {
  const chosen = store.chosenMarks().filter(isOpen);
  const here = clock.target();
  const open = store.snapshot().marks.filter(isOpen);
  const nearby = open.reduce<Mark | undefined>(
    (best, m) => (best && Math.abs(best.on_us - here) <= Math.abs(m.on_us - here) ? best : m),
    undefined,
  );
  const taken = chosen.length > 0 ? chosen : nearby ? [nearby] : [];
  const last = taken.at(-1);
  if (!last) return;
  store.change(taken.map((m) => ({ before: m, after: answered(m, "looked") })));
  const next = store.snapshot().marks.find((m) => isOpen(m) && m.on_us >= last.on_us);
  store.select(next?.id ?? null);
  if (next) clock.goTo(nearest(clock.times, next.on_us));
}

/** Takes what is suggested about the playhead, and goes on to the next suggestion. */
export function takeBout(clock: FrameClock, store: DeskStore): void {
  takeMarks(store, openHere(clock, store));
  const next = store.snapshot().marks.find(isOpen);
  if (next) clock.goTo(nearest(clock.times, next.on_us));
}

/** What is suggested in the bout under the playhead and up to the next one: footfalls at the edge of a bout
 * may belong to none. */
function openHere(clock: FrameClock, store: DeskStore): Mark[] {
  const { marks, desk } = store.snapshot();
  const us = desk.settings.slow_factor * 1e6;
  const early = 0.05 * us;
  const first =
    marks.find((m) => isOpen(m) && m.on_us >= clock.target() - early) ?? marks.find(isOpen);
  if (!first) return [];
  const starts = desk.analysis.bouts.map((b) => b.start_s * us - early);
  const k = starts.findLastIndex((start) => start <= first.on_us);
  const from = k > 0 ? (starts[k] ?? 0) : -Infinity;
  const to = starts[Math.max(k, 0) + 1] ?? Infinity;
  return marks.filter((m) => isOpen(m) && m.on_us >= from && m.on_us < to);
}

/** Takes suggestions without a look at each; as few edits as the server takes. */
export function takeMarks(store: DeskStore, marks: readonly Mark[]): void {
  for (let k = 0; k < marks.length; k += MOST_CHANGES) {
    const part = marks.slice(k, k + MOST_CHANGES);
    store.change(part.map((m) => ({ before: m, after: answered(m, "taken") })));
  }
}

/** Changes of one edit. */
const MOST_CHANGES = 5000;

function footfall(to: 1 | -1, also: boolean, clock: FrameClock, store: DeskStore): void {
  const { marks } = store.snapshot();
  const chosen = store.selectedMark();
  // Two hooves may land on one frame: from a chosen footfall go to the very next one.
  const shown = (m: Mark) => clock.times[nearest(clock.times, m.on_us)];
  const here = chosen && shown(chosen) === clock.target() ? marks.indexOf(chosen) : -1;
  const mark = here >= 0 ? marks[here + to] : neighbour(marks, clock.target(), to);
  if (!mark) return;
  if (also) store.alsoSelect(mark.id);
  else store.select(mark.id);
  clock.goTo(nearest(clock.times, mark.on_us));
}

/** Moves the chosen footfalls, or their ends, by a frame, and the picture with the last one. */
function nudge(by: 1 | -1, end: "on" | "off", clock: FrameClock, store: DeskStore): void {
  const last = store.selectedMark();
  const changes = store.chosenMarks().flatMap((mark) => {
    const from = end === "on" ? mark.on_us : mark.off_us;
    if (from === undefined || from === null) return [];
    const us = clock.times[nearest(clock.times, from) + by];
    if (us === undefined) return [];
    const moved = {
      ...mark,
      origin: { how: "stepped" as const },
      ...(end === "on" ? { on_us: us } : { off_us: us }),
    };
    const ends = moved.off_us !== null && moved.off_us !== undefined;
    return ends && (moved.off_us ?? 0) <= moved.on_us ? [] : [{ before: mark, after: moved }];
  });
  if (changes.length === 0) return;
  store.change(changes);
  const leads = changes.find((c) => c.after.id === last?.id)?.after;
  const us = end === "on" ? leads?.on_us : leads?.off_us;
  if (typeof us === "number") clock.goToTime(us);
}
