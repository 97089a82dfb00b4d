import { useSyncExternalStore } from "react";

import { type Limb, LimbMark, NAMES } from "../ui/limbs";
import type { KeyMap } from "../live/keys";
import type { Marking } from "../live/marking";

/** The hooves as seen from above, nose up. */
const PLACES: readonly Limb[] = ["LF", "RF", "LH", "RH"];

/** Four keys for four hooves: tap a footfall, hold a stance. */
export function HoofPad({ marking, keys }: { marking: Marking; keys: KeyMap }) {
  const held = useSyncExternalStore(marking.subscribe, marking.snapshot);
  return (
    <div className="grid grid-cols-2 gap-1" role="group" aria-label="Hooves, seen from above">
      {PLACES.map((limb) => {
        const down = held.some((h) => h.limb === limb);
        return (
          <button
            key={limb}
            type="button"
            aria-label={`${NAMES[limb]}, key ${keys.keyFor(limb)}`}
            aria-pressed={down}
            className={`flex h-8 w-[4.6rem] touch-none items-center justify-center gap-2 rounded-[3px] border ${down ? "bg-ink text-sand border-ink" : "bg-chalk border-line"}`}
            onPointerDown={(e) => {
              e.currentTarget.setPointerCapture(e.pointerId);
              marking.press(limb);
            }}
            onPointerUp={() => marking.release(limb)}
            onPointerCancel={() => marking.release(limb)}
          >
            <svg width={16} height={16} viewBox="-8 -8 16 16" aria-hidden>
              <LimbMark limb={limb} x={0} y={0} r={6} />
            </svg>
            <span className="text-sm">{limb}</span>
            <kbd className="font-mono text-sm font-medium">{keys.keyFor(limb)}</kbd>
          </button>
        );
      })}
    </div>
  );
}
