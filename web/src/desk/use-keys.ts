import { useEffect } from "react";

import { takesLetters } from "../live/takes-letters";
import { act, carried, type Hands, looked } from "./acts";

/** Keys of the desk. They work wherever the focus is, but in fields that take letters. */
export function useKeys(hands: Hands): void {
  const { keys, marking, off } = hands;
  useEffect(() => {
    if (off) return;
    const onDown = (e: KeyboardEvent) => {
      if (takesLetters(e.target)) return;
      const action = keys.actionOf(e);
      if (!action || pressesButton(e)) return;
      e.preventDefault();
      const steps = ["step", "nudge", "footfall", "pan", "zoom"].includes(action.do);
      if (e.repeat && !steps) return;
      if (hands.looking.active && looked(action, hands)) return;
      if (hands.carry.active && carried(action, hands)) return;
      act(action, hands);
    };
    const onUp = (e: KeyboardEvent) => {
      const limb = keys.limbOf(e);
      if (limb) marking.release(limb);
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
  });
}

/** A button that has the focus is pressed by these. */
const pressesButton = (e: KeyboardEvent) =>
  (e.key === " " || e.key === "Enter") && e.target instanceof HTMLButtonElement;
