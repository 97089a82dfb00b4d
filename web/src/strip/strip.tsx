import { useEffect, useMemo, useRef, useState, useSyncExternalStore } from "react";

import type { Schemas } from "../api/client";
import type { Carry } from "../live/carry";
import type { DeskState, DeskStore } from "../live/clip-store";
import type { FrameClock } from "../live/frame-clock";
import type { KeyMap } from "../live/keys";
import type { Marking } from "../live/marking";
import { saveFile } from "../ui/save-file";
import { Axis } from "./axis";
import { Beats } from "./beats";
import { Bouts } from "./bouts";
import { Checks } from "./checks";
import type { Scene } from "./draw";
import { Filmstrip } from "./filmstrip";
import { Happenings } from "./happenings";
import { useInks } from "./inks";
import { LaneLabels } from "./lane-labels";
import { Lanes } from "./lanes";
import { Loudness } from "./loudness";
import { Outside } from "./outside";
import { HeldStances, Playhead } from "./playhead";
import { HEIGHT, LANES_TOP } from "./rows";
import { stripAsSvg } from "./save-strip";
import { Tags } from "./tags";
import { Unseen } from "./unseen";
import { usePointer } from "./use-pointer";
import type { View } from "./view";

type Props = {
  clock: FrameClock;
  store: DeskStore;
  state: DeskState;
  marking: Marking;
  carry: Carry;
  keys: KeyMap;
  view: View;
  sound: Schemas["Sound"] | null;
  filmstrip: string | null;
  slow: number;
};

const LABELS = 76;

/** Time to the right: bouts and what was ridden above, four lanes of stances, sound and seconds
 * below. */
export function Strip(props: Props) {
  const { clock, store, state, marking, carry, keys, view, sound, filmstrip, slow } = props;
  const box = useRef<HTMLDivElement>(null);
  const over = useRef<SVGSVGElement>(null);
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
  const { drag, net, handlers, area } = usePointer({ clock, store, view, perUs });
  const foretold = useSyncExternalStore(carry.subscribe, carry.snapshot).marks;
  const inks = useInks();
  const loudness = useMemo(
    () => (sound && sound.points.length > 0 ? new Loudness(sound) : null),
    [sound],
  );
  const { marks, chosen, selected, again } = state;
  const { from, to } = view;
  const scene = useMemo<Scene>(
    () => ({
      view: { from, to },
      width,
      marks: drag ? marks.map((m) => (m.id === drag.id ? drag : m)) : marks,
      chosen,
      selected,
      foretold: again ? again.marks : foretold,
      hidden: again,
      loudness,
      inks,
    }),
    [from, to, width, marks, drag, chosen, selected, foretold, again, loudness, inks],
  );
  const { analysis, checks, found, settings } = state.desk;
  return (
    <section ref={box} className="relative flex shrink-0" aria-label="Strip">
      <LaneLabels keys={keys} />
      <div
        ref={area}
        className="bg-chalk relative cursor-crosshair touch-none overflow-hidden select-none"
        style={{ width, height: HEIGHT }}
        role="application"
        aria-roledescription="strip of footfalls"
        aria-label={`${marks.length} footfalls, ${chosen.size} chosen. ${keys.keyFor("before")} and ${keys.keyFor("next")} go from one to the next.`}
        {...handlers}
      >
        <Lanes scene={scene} changedAt={view.changedAt} />
        <svg ref={over} width={width} height={HEIGHT} className="absolute inset-0 block">
          <Bouts bouts={analysis.bouts} x={x} slow={slow} width={width} />
          <Happenings events={analysis.events} x={x} slow={slow} width={width} />
          <Tags tags={state.tags} x={x} width={width} end={view.clip.to} />
          {found && <Unseen parts={found.unseen} x={x} width={width} />}
          {found && <Beats beats={found.beats_us} x={x} width={width} />}
          <Checks checks={checks} x={x} slow={slow} width={width} />
          <g transform={`translate(0 ${LANES_TOP})`}>
            <HeldStances clock={clock} marking={marking} x={x} />
          </g>
          {filmstrip && <Filmstrip source={filmstrip} view={view} width={width} />}
          <Axis view={view} x={x} slow={slow} />
          <Outside settings={settings} x={x} width={width} />
          {net && (
            <rect
              {...net}
              fill="var(--clay)"
              fillOpacity={0.12}
              stroke="var(--clay)"
              strokeDasharray="4 3"
            />
          )}
          <Playhead clock={clock} x={x} />
        </svg>
      </div>
      <button
        type="button"
        aria-label="Save the strip as SVG"
        onClick={() => {
          if (over.current) saveFile("strip.svg", stripAsSvg(scene, over.current), "image/svg+xml");
        }}
        className="text-clay absolute bottom-0 left-1 min-h-6 px-1 text-xs underline underline-offset-3"
      >
        SVG
      </button>
    </section>
  );
}
