import { useEffect, useRef, useState } from "react";

import type { Schemas } from "../../api/client";
import type { DeskState, DeskStore } from "../desk-store";
import type { FrameClock } from "../frame-clock";
import type { Marking } from "../marking";
import { Axis } from "./axis";
import { Bouts } from "./bouts";
import { Filmstrip } from "./filmstrip";
import { Outside } from "./outside";
import { Happenings } from "./happenings";
import { HeldStances, Playhead } from "./playhead";
import { LaneLabels } from "./lane-labels";
import { Lanes } from "./lanes";
import { HEIGHT, LANES_TOP, SOUND_TOP } from "./rows";
import { Sound } from "./sound";
import { usePointer } from "./use-pointer";
import type { View } from "./view";

type Props = {
  clock: FrameClock;
  store: DeskStore;
  state: DeskState;
  marking: Marking;
  view: View;
  sound: Schemas["Sound"] | null;
  filmstrip: string | null;
  slow: number;
};

const LABELS = 76;

/** Time to the right: bouts above, four lanes of stances, sound and seconds below. */
export function Strip({ clock, store, state, marking, view, sound, filmstrip, slow }: Props) {
  const box = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(1000);
  useEffect(() => {
    const seen = new ResizeObserver(([entry]) => {
      if (entry) setWidth(Math.max(200, entry.contentRect.width - LABELS));
    });
    if (box.current) seen.observe(box.current);
    return () => seen.disconnect();
  }, []);
  const perUs = width / (view.to - view.from);
  const x = (us: number) => (us - view.from) * perUs;
  const { drag, handlers, svg } = usePointer({ clock, store, marks: state.marks, view, perUs });
  const marks = drag ? state.marks.map((m) => (m.id === drag.id ? drag : m)) : state.marks;
  const seen = marks.filter(
    (m) => (m.off_us ?? m.on_us) >= view.from - 1e5 && m.on_us <= view.to + 1e5,
  );
  return (
    <section ref={box} className="flex shrink-0" aria-label="Strip">
      <LaneLabels />
      <svg
        ref={svg}
        width={width}
        height={HEIGHT}
        className="bg-chalk block cursor-crosshair touch-none select-none"
        role="application"
        aria-roledescription="strip of footfalls"
        aria-label={`${state.marks.length} footfalls. Q and E go from one to the next.`}
        {...handlers}
      >
        <Bouts bouts={state.desk.analysis.bouts} x={x} slow={slow} width={width} />
        <Happenings events={state.desk.analysis.events} x={x} slow={slow} width={width} />
        <g transform={`translate(0 ${LANES_TOP})`}>
          <Lanes marks={seen} selected={state.selected} x={x} width={width} />
          <HeldStances clock={clock} marking={marking} x={x} />
        </g>
        <g transform={`translate(0 ${SOUND_TOP})`}>
          <Sound sound={sound} view={view} width={width} />
        </g>
        {filmstrip && <Filmstrip source={filmstrip} view={view} width={width} />}
        <Axis view={view} x={x} slow={slow} />
        <Outside settings={state.desk.settings} x={x} width={width} />
        <Playhead clock={clock} x={x} />
      </svg>
    </section>
  );
}
