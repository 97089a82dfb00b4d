import type { Schemas } from "../../api/client";
import { type DeskStore, type Tag } from "../../live/clip-store";
import { name } from "../../live/names";
import type { FrameClock } from "../../live/frame-clock";
import { boutHere } from "../acts";
import type { Ridden } from "./ridden-form";

/** A moment's mark at the frame on screen. */
export function putTag(store: DeskStore, clock: FrameClock, what: Tag["what"]): void {
  const tag: Tag = { id: name(), from_us: clock.target(), to_us: null, what };
  store.change([], [{ before: null, after: tag }]);
}

export function removeTag(store: DeskStore, tag: Tag): void {
  store.change([], [{ before: tag, after: null }]);
}

/** Begins a stretch in which the hooves are out of view, or ends the one that has begun. */
export function toggleUnseen(store: DeskStore, clock: FrameClock): void {
  const here = clock.target();
  const open = store.snapshot().tags.findLast((t) => t.what.kind === "unseen" && t.to_us === null);
  if (open && here > open.from_us) {
    store.change([], [{ before: open, after: { ...open, to_us: here } }]);
  } else {
    putTag(store, clock, { kind: "unseen" });
  }
}

export type Stretch = { from: number; to: number; words: string; tag: Tag | null; value: Ridden };

/** The stretch to speak of: one already spoken of here, the chosen footfalls', or the bout's. */
export function stretchHere(store: DeskStore, clock: FrameClock): Stretch | null {
  const { tags, desk } = store.snapshot();
  const us = desk.settings.slow_factor * 1e6;
  const here = clock.target();
  const tag = tags.findLast(
    (t) => t.what.kind === "ridden" && t.from_us <= here && (t.to_us ?? Infinity) > here,
  );
  const said = (from: number, to: number) =>
    `From ${(from / us).toFixed(2)} s to ${(to / us).toFixed(2)} s.`;
  if (tag && tag.what.kind === "ridden") {
    const to = tag.to_us ?? here;
    return { from: tag.from_us, to, words: said(tag.from_us, to), tag, value: tag.what };
  }
  const chosen = store.chosenMarks();
  const [first, last] = [chosen[0], chosen.at(-1)];
  if (first && last && chosen.length > 4) {
    const stretch = { from: first.on_us, to: last.on_us };
    const words = `${said(stretch.from, stretch.to)} The chosen footfalls.`;
    return { ...stretch, words, tag: null, value: {} };
  }
  const bout = boutHere(store, clock);
  if (!bout) return null;
  const whole = withChanges(desk.analysis.bouts, bout);
  const [begin = bout, end = bout] = [whole[0], whole.at(-1)];
  const stretch = { from: Math.round(begin.start_s * us), to: Math.round(end.end_s * us) };
  const words = `${said(stretch.from, stretch.to)} Found: ${whole.map((b) => b.label).join("; ")}.`;
  return { ...stretch, words, tag: null, value: {} };
}

type Bout = Schemas["BoutSaid"];

/** A bout with its neighbours of the same canter: flying changes do not end what is ridden. */
function withChanges(bouts: readonly Bout[], bout: Bout): readonly Bout[] {
  const canters = (b: Bout | undefined) => b?.gait === "canter" || b?.gait === "gallop";
  let from = bouts.indexOf(bout);
  let to = from;
  if (!canters(bout)) return [bout];
  const joined = (a: number) =>
    canters(bouts[a]) &&
    canters(bouts[a + 1]) &&
    Math.abs((bouts[a + 1]?.start_s ?? 0) - (bouts[a]?.end_s ?? 0)) < 0.05;
  while (from > 0 && joined(from - 1)) from--;
  while (joined(to)) to++;
  return bouts.slice(from, to + 1);
}

export function saveRidden(store: DeskStore, stretch: Stretch, ridden: Ridden): void {
  const tag: Tag = {
    id: stretch.tag?.id ?? name(),
    from_us: stretch.from,
    to_us: stretch.to,
    what: { ...ridden, kind: "ridden" },
  };
  store.change([], [{ before: stretch.tag, after: tag }]);
}
