import { type PointerEvent, useEffect, useRef, useState } from "react";

import { RINGS } from "../../ui/limbs";
import type { DeskStore, Mark } from "../desk-store";
import { type FrameClock, nearest } from "../frame-clock";
import { LANE, LANE_Y, LANES_TOP } from "./rows";
import type { View } from "./view";

type Props = {
  clock: FrameClock;
  store: DeskStore;
  marks: readonly Mark[];
  view: View;
  perUs: number;
};

/** Reach of the pointer about a mark, pixels. */
const REACH = 10;

type Grip = { mark: Mark; end: "on" | "off"; offset: number };

/** Drag a mark's head or end to another frame; drag elsewhere to move the playhead; turn the
 * wheel to look closer, sideways to move along. */
export function usePointer({ clock, store, marks, view, perUs }: Props) {
  const svg = useRef<SVGSVGElement>(null);
  const grip = useRef<Grip | null>(null);
  const scrubbing = useRef(false);
  const [drag, setDrag] = useState<Mark | null>(null);

  const place = (e: { clientX: number; clientY: number }) => {
    const box = svg.current?.getBoundingClientRect();
    return { px: e.clientX - (box?.left ?? 0), py: e.clientY - (box?.top ?? 0) };
  };
  const timeAt = (px: number) => view.from + px / perUs;

  const under = (px: number, py: number): Grip | null => {
    const y = py - LANES_TOP;
    const ring = LANE_Y.findIndex((middle) => Math.abs(y - middle) <= LANE / 2);
    const limb = RINGS[ring];
    let best: Grip | null = null;
    let closest = REACH;
    for (const mark of marks) {
      if (mark.limb !== limb) continue;
      for (const end of ["on", "off"] as const) {
        const us = end === "on" ? mark.on_us : mark.off_us;
        if (typeof us !== "number") continue;
        const offset = (us - view.from) * perUs - px;
        // A head and an end that touch: the head wins.
        const distance = Math.abs(offset) + (end === "off" ? 3 : 0);
        if (distance <= closest) {
          closest = distance;
          best = { mark, end, offset };
        }
      }
    }
    return best;
  };

  const onPointerDown = (e: PointerEvent) => {
    if (e.button !== 0) return;
    const { px, py } = place(e);
    svg.current?.setPointerCapture(e.pointerId);
    grip.current = under(px, py);
    scrubbing.current = grip.current === null;
    if (grip.current) {
      const { mark, end } = grip.current;
      store.select(mark.id);
      clock.goToTime(end === "on" ? mark.on_us : (mark.off_us ?? mark.on_us));
    } else {
      clock.goToTime(timeAt(px));
    }
  };

  const onPointerMove = (e: PointerEvent) => {
    const { px } = place(e);
    if (scrubbing.current) clock.goToTime(timeAt(px));
    if (!grip.current) return;
    const { mark, end, offset } = grip.current;
    const frame = nearest(clock.times, timeAt(px + offset));
    const us = clock.times[frame] ?? 0;
    const moved = moveEnd(mark, end, us);
    if (moved) {
      setDrag(moved);
      clock.goTo(frame);
    }
  };

  const onPointerUp = () => {
    const from = grip.current?.mark;
    grip.current = null;
    scrubbing.current = false;
    setDrag(null);
    if (from && drag && (drag.on_us !== from.on_us || drag.off_us !== from.off_us)) {
      store.change([{ before: from, after: drag }]);
    }
  };

  const onPointerCancel = () => {
    grip.current = null;
    scrubbing.current = false;
    setDrag(null);
  };

  // React listens to the wheel passively; the page must not scroll along.
  useEffect(() => {
    const element = svg.current;
    if (!element) return;
    const onWheel = (e: WheelEvent) => {
      e.preventDefault();
      const sideways = e.shiftKey ? e.deltaY : e.deltaX;
      if (Math.abs(sideways) > Math.abs(e.shiftKey ? 0 : e.deltaY)) view.pan(sideways / perUs);
      else {
        const px = e.clientX - element.getBoundingClientRect().left;
        view.zoom(Math.exp(e.deltaY * 0.0015), view.from + px / perUs);
      }
    };
    element.addEventListener("wheel", onWheel, { passive: false });
    return () => element.removeEventListener("wheel", onWheel);
  }, [view, perUs]);

  return {
    svg,
    drag,
    handlers: { onPointerDown, onPointerMove, onPointerUp, onPointerCancel },
  };
}

function moveEnd(mark: Mark, end: "on" | "off", us: number): Mark | null {
  const moved = { ...mark, tap_rate: null, ...(end === "on" ? { on_us: us } : { off_us: us }) };
  const off = moved.off_us;
  return typeof off === "number" && off <= moved.on_us ? null : moved;
}
