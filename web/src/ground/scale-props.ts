import type { Schemas } from "../api/client";
import type { DeskStore } from "../live/clip-store";
import type { FrameClock } from "../live/frame-clock";
import type { Aim, Calibration, Ground } from "./aim";

/** What every way to a scale works on. */
export type ScaleProps = {
  clip: Schemas["ClipView"];
  ground: Ground;
  own: Calibration;
  aim: Aim | null;
  clock: FrameClock;
  store: DeskStore;
  onAim: (aim: Aim | null) => void;
  onChange: (change: Partial<Calibration>) => void;
};
