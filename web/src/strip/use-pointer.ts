import { type PointerEvent, useEffect, useRef, useState } from "react";

import { RINGS } from "../ui/limbs";
import type { DeskStore, Mark } from "../live/clip-store";
import { type FrameClock, nearest } from "../live/frame-clock";
import { firstFrom } from "../live/marks";
import { LANE, LANE_Y, LANES_TOP } from "./rows";
import type { View } from "./view";

type Props = {
  clock: FrameClock;
  store: DeskStore;
  view: View;
  perUs: number;
};

/** Reach of the pointer about a mark, pixels. */
const REACH = 10;

/** A rectangle drawn with Shift: what lies in it is chosen. */
type Net = { x: number; y: number; width: number; height: number };

type Grip = { mark: Mark; end: "on" | "off"; offset: number };

/** Drag a mark's head or end to another frame; drag elsewhere to move the playhead; turn the
 * wheel to look closer, sideways to move along. */
export function usePointer({ clock, store, view, perUs }: Props) {
  const area = useRef<HTMLDivElement>(null);
  const grip = useRef<Grip | null>(null);
  const scrubbing = useRef(false);
  const netFrom = useRef<{ px: number; py: number } | null>(null);
  const [drag, setDrag] = useState<Mark | null>(null);
  const [net, setNet] = useState<Net | null>(null);

  const place = (e: { clientX: number; clientY: number }) => {
    const box = area.current?.getBoundingClientRect();
    return { px: e.clientX - (box?.left ?? 0), py: e.clientY - (box?.top ?? 0) };
  };
  const timeAt = (px: number) => view.from + px / perUs;

  const under = (px: number, py: number): Grip | null => {
    const y = py - LANES_TOP;
    const ring = LANE_Y.findIndex((middle) => Math.abs(y - middle) <= LANE / 2);
    const limb = RINGS[ring];
    let best: Grip | null = null;
    let closest = REACH;
    const { marks } = store.snapshot();
    // Ends of stances lie up to some seconds after their heads.
    const first = firstFrom(marks, timeAt(px - REACH) - 20_000_000);
    const last = firstFrom(marks, timeAt(px + REACH));
    for (const mark of marks.slice(first, last)) {
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

  /** Footfalls whose heads lie in a net. */
  const inNet = (n: Net): string[] => {
    const { marks } = store.snapshot();
    const within = marks.slice(
      firstFrom(marks, timeAt(n.x)),
      firstFrom(marks, timeAt(n.x + n.width)),
    );
    const caught = within.filter((m) => {
      const y = LANES_TOP + (LANE_Y[RINGS.indexOf(m.limb)] ?? 0);
      return y >= n.y - 4 && y <= n.y + n.height + 4;
    });
    return caught.map((m) => m.id);
  };

  const onPointerDown = (e: PointerEvent) => {
    if (e.button !== 0) return;
    const { px, py } = place(e);
    area.current?.setPointerCapture(e.pointerId);
    grip.current = under(px, py);
    if (e.shiftKey) {
      if (grip.current) store.alsoSelect(grip.current.mark.id);
      else setNet({ x: px, y: py, width: 0, height: 0 });
      netFrom.current = grip.current ? null : { px, py };
      grip.current = null;
      return;
    }
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
    const { px, py } = place(e);
    const corner = netFrom.current;
    if (corner) {
      setNet({
        x: Math.min(px, corner.px),
        y: Math.min(py, corner.py),
        width: Math.abs(px - corner.px),
        height: Math.abs(py - corner.py),
      });
      return;
    }
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
    if (netFrom.current && net) store.choose(inNet(net));
    netFrom.current = null;
    setNet(null);
    const from = grip.current?.mark;
    grip.current = null;
    scrubbing.current = false;
    setDrag(null);
    if (from && drag && (drag.on_us !== from.on_us || drag.off_us !== from.off_us)) {
      store.change([{ before: from, after: drag }]);
    }
  };

  const onPointerCancel = () => {
    netFrom.current = null;
    setNet(null);
    grip.current = null;
    scrubbing.current = false;
    setDrag(null);
  };

  // React listens to the wheel passively; the page must not scroll along.
  useEffect(() => {
    const element = area.current;
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
    area,
    drag,
    net,
    handlers: { onPointerDown, onPointerMove, onPointerUp, onPointerCancel },
  };
}

function moveEnd(mark: Mark, end: "on" | "off", us: number): Mark | null {
  const moved = {
    ...mark,
    origin: { how: "stepped" as const },
    ...(end === "on" ? { on_us: us } : { off_us: us }),
  };
  const off = moved.off_us;
  return typeof off === "number" && off <= moved.on_us ? null : moved;
}
