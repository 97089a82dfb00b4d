import { useEffect } from "react";

import type { FrameClock } from "../live/frame-clock";
import type { DeskStore } from "../live/clip-store";
import type { KeyMap } from "../live/keys";
import { takesLetters } from "../live/takes-letters";

type Hands = {
  clock: FrameClock;
  store: DeskStore;
  keys: KeyMap;
  aiming: boolean;
  /** Moves the cross by pixels of the footage. */
  nudge: (dx: number, dy: number) => void;
  /** Clicks where the cross is. */
  set: () => void;
  stop: () => void;
  /** The footfall before, or the next. */
  hoof: (to: 1 | -1) => void;
  zoom: (by: number) => void;
  help: () => void;
};

const ARROWS: Record<string, [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

/** Keys of the Ground desk: time as on the Timing desk, the cross by arrows, Enter clicks. */
export function useGroundKeys(hands: Hands): void {
  useEffect(() => {
    const onDown = (e: KeyboardEvent) => {
      if (takesLetters(e.target) || e.ctrlKey || e.metaKey || e.altKey) return;
      const { clock, store, keys, aiming } = hands;
      const arrow = ARROWS[e.key];
      if (arrow && aiming) {
        const by = e.shiftKey ? 10 : 1;
        hands.nudge(arrow[0] * by, arrow[1] * by);
      } else if (e.key === "Enter" && aiming && !(e.target instanceof HTMLButtonElement)) {
        hands.set();
      } else {
        const action = keys.actionOf(e);
        if (!action || (e.key === " " && e.target instanceof HTMLButtonElement)) return;
        if (action.do === "step") clock.step(action.by);
        else if (action.do === "footfall") hands.hoof(action.to);
        else if (action.do === "zoom") hands.zoom(action.by < 1 ? 1.5 : 1 / 1.5);
        else if (action.do === "release") hands.stop();
        else if (action.do === "undo" && !e.repeat) store.undo();
        else if (action.do === "redo" && !e.repeat) store.redo();
        else if (action.do === "play" && !e.repeat) clock.toggle();
        else if (action.do === "help") hands.help();
        else return;
      }
      e.preventDefault();
    };
    window.addEventListener("keydown", onDown);
    return () => window.removeEventListener("keydown", onDown);
  });
}
