import { useEffect } from "react";

import type { DeskStore } from "./desk-store";
import type { FrameClock } from "./frame-clock";
import { type Action, actionOf } from "./keys";
import type { Marking } from "./marking";
import { neighbour } from "./marks";
import { frameAt } from "./frame-clock";
import type { View } from "./strip/view";
import { RATES } from "./transport";

type Hands = {
  clock: FrameClock;
  store: DeskStore;
  marking: Marking;
  view: View;
  jump: (seconds: number) => void;
  openHelp: () => void;
  /** A dialog has the keys. */
  off: boolean;
};

/** Keys of the desk. They work wherever the focus is, but in fields that take letters. */
export function useKeys(hands: Hands): void {
  const { clock, store, marking, view, jump, openHelp, off } = hands;
  useEffect(() => {
    if (off) return;
    const onDown = (e: KeyboardEvent) => {
      if (takesLetters(e.target)) return;
      const action = actionOf(e);
      if (!action || (e.key === " " && e.target instanceof HTMLButtonElement)) return;
      e.preventDefault();
      const steps = action.do === "step" || action.do === "nudge" || action.do === "footfall";
      if (e.repeat && !steps) return;
      if (action.do === "limb") marking.press(action.limb);
      else if (action.do === "lift") marking.lift(action.limb);
      else if (action.do === "zoom") view.zoom(action.by);
      else if (action.do === "whole") view.whole();
      else if (action.do === "help") openHelp();
      else act(action, clock, store, jump);
    };
    const onUp = (e: KeyboardEvent) => {
      // Shift may have come or gone while the key was down.
      const action = actionOf(new KeyboardEvent("keyup", { key: e.key }));
      if (action?.do === "limb") marking.release(action.limb);
    };
    const onBlur = () => marking.releaseAll();
    window.addEventListener("keydown", onDown);
    window.addEventListener("keyup", onUp);
    window.addEventListener("blur", onBlur);
    return () => {
      window.removeEventListener("keydown", onDown);
      window.removeEventListener("keyup", onUp);
      window.removeEventListener("blur", onBlur);
    };
  }, [clock, store, marking, view, jump, openHelp, off]);
}

function takesLetters(target: EventTarget | null): boolean {
  return (
    target instanceof HTMLSelectElement ||
    target instanceof HTMLTextAreaElement ||
    target instanceof HTMLInputElement
  );
}

function act(
  action: Action,
  clock: FrameClock,
  store: DeskStore,
  jump: (seconds: number) => void,
): void {
  switch (action.do) {
    case "step":
      return clock.step(action.by);
    case "play":
      return clock.toggle();
    case "speed": {
      const k = RATES.indexOf(clock.snapshot().rate as (typeof RATES)[number]);
      return clock.setRate(RATES[(k + 1) % RATES.length] ?? 1);
    }
    case "footfall": {
      const mark = neighbour(store.snapshot().marks, clock.target(), action.to);
      if (!mark) return;
      store.select(mark.id);
      return clock.goToTime(mark.on_us);
    }
    case "nudge":
      return nudge(action.by, action.end, clock, store);
    case "delete": {
      const mark = store.selectedMark();
      if (!mark) return;
      store.change([{ before: mark, after: null }]);
      return store.select(null);
    }
    case "begin":
      return store.changeSettings({ trim_from_us: clock.now() });
    case "end":
      return store.changeSettings({ trim_to_us: clock.now() });
    case "undo":
      return store.undo();
    case "redo":
      return store.redo();
    case "release":
      return store.select(null);
    case "finding": {
      const findings = store.snapshot().desk.analysis.findings;
      const here = clock.target();
      const next = findings.find((f) => f.fault && f.start_s * 1e6 > here + 1) ?? findings[0];
      return next ? jump(next.start_s) : undefined;
    }
  }
}

/** Moves the chosen footfall, or its end, by a frame, and the picture with it. */
function nudge(by: 1 | -1, end: "on" | "off", clock: FrameClock, store: DeskStore): void {
  const mark = store.selectedMark();
  const from = end === "on" ? mark?.on_us : mark?.off_us;
  if (!mark || from === undefined || from === null) return;
  const frame = frameAt(clock.times, from) + by;
  const us = clock.times[frame];
  if (us === undefined) return;
  const moved = { ...mark, tap_rate: null, ...(end === "on" ? { on_us: us } : { off_us: us }) };
  if (moved.off_us !== null && moved.off_us !== undefined && moved.off_us <= moved.on_us) return;
  store.change([{ before: mark, after: moved }]);
  clock.goTo(frame);
}
