import { useSyncExternalStore } from "react";

import { inkOf, RINGS } from "../ui/limbs";
import type { FrameClock } from "../live/frame-clock";
import type { Marking } from "../live/marking";
import { AXIS_TOP, LANE_Y } from "./rows";

/** The frame on screen. */
export function Playhead({ clock, x }: { clock: FrameClock; x: (us: number) => number }) {
  const us = useSyncExternalStore(clock.subscribe, () => clock.now());
  const at = x(us);
  return (
    <g pointerEvents="none">
      <line x1={at} x2={at} y1={0} y2={AXIS_TOP + 4} stroke="var(--clay)" strokeWidth={1.6} />
      <path d={`M${at - 5} 0h10l-5 6z`} fill="var(--clay)" />
    </g>
  );
}

type HeldProps = { clock: FrameClock; marking: Marking; x: (us: number) => number };

/** Stances that are being held at this moment. */
export function HeldStances({ clock, marking, x }: HeldProps) {
  const held = useSyncExternalStore(marking.subscribe, marking.snapshot);
  const us = useSyncExternalStore(clock.subscribe, () => clock.now());
  return held.map((h) => (
    <rect
      key={h.limb}
      x={x(h.on_us)}
      y={(LANE_Y[RINGS.indexOf(h.limb)] ?? 0) - 7}
      width={Math.max(2, x(us) - x(h.on_us))}
      height={14}
      fill={inkOf(h.limb)}
      opacity={0.6}
    />
  ));
}
