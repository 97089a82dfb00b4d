import { Tabs } from "radix-ui";
import { memo, useState, useSyncExternalStore } from "react";

import type { Schemas } from "../api/client";
import { Drawing } from "../ui/drawing";
import { Wheel, type WheelData } from "../wheel/wheel";
import { BoutLines, FirstSteps, NoFigures } from "./bout-lines";
import { CheckList } from "./check-list";
import { ClipSheet } from "./clip-sheet";
import type { DeskState, DeskStore } from "../live/clip-store";
import { Figures } from "./figures";
import { Findings } from "../ui/findings";
import type { FrameClock } from "../live/frame-clock";
import type { KeyMap } from "../live/keys";
import { Repeat } from "./repeat";
import { TagList } from "./tags/tag-list";
import { Work } from "./work/work";
import { Choice } from "../ui/choice";

export type WheelView = {
  /** The stride under the playhead alone. */
  spoke: boolean;
  /** Place of the bout behind the wheel. */
  ghost: number | null;
};

type Props = {
  clip: Schemas["ClipView"];
  clock: FrameClock;
  store: DeskStore;
  state: DeskState;
  keys: KeyMap;
  view: WheelView;
  onView: (view: WheelView) => void;
  onRidden: () => void;
  jump: (seconds: number) => void;
};

const TABS = ["findings", "figures", "work", "marked", "clip"];

/** The bout under the playhead on its wheel, and what was found. */
export const Reading = memo(function Reading(props: Props) {
  const { clip, clock, store, state, keys, view, onView, onRidden, jump } = props;
  const { desk } = state;
  const [tab, setTab] = useState("findings");
  const slow = desk.settings.slow_factor;
  const us = useSyncExternalStore(clock.subscribe, () => clock.now());
  const now = us / 1e6 / slow;
  const bouts = desk.analysis.bouts;
  const k = boutAt(bouts, now);
  const bout = bouts[k];
  const whole = (bout && bout.strides > 0 && desk.wheels[k]) || null;
  const single = view.spoke && whole ? strideAt(whole, now) : null;
  const wheel = single ?? whole;
  const ghost = view.ghost !== null && view.ghost !== k ? (desk.wheels[view.ghost] ?? null) : null;
  const loop = (from_s: number, to_s: number) =>
    clock.loop({ from: from_s * slow * 1e6, to: to_s * slow * 1e6, rate: 0.25 });
  return (
    <section className="flex min-h-0 flex-col" aria-label="Reading">
      <div className="flex shrink-0 items-center gap-3">
        <Drawing name={`${clip.name}-wheel`} quiet>
          <Wheel
            wheel={wheel}
            size={226}
            hand={whole ? handAt(whole, now) : null}
            ghost={ghost}
            onPoint={jump}
          />
        </Drawing>
        <div className="min-w-0">
          <h2 className="text-[1.3rem] leading-tight font-medium">
            {bout ? bout.label : "No stride yet"}
          </h2>
          {bout ? (
            <BoutLines bout={bout} k={k} of={bouts.length} looked={desk.unlooked[k]} />
          ) : (
            <FirstSteps keys={keys} />
          )}
          {whole && (
            <div className="mt-1 flex flex-col items-start text-sm">
              <button
                type="button"
                aria-pressed={view.spoke}
                onClick={() => onView({ ...view, spoke: !view.spoke })}
                className="text-clay min-h-7 text-left underline underline-offset-3"
              >
                {view.spoke ? "all of the bout" : "this stride alone"}
              </button>
              {bouts.length > 1 && (
                <Choice
                  look="line"
                  label="Behind the wheel"
                  value={`${view.ghost ?? ""}`}
                  onChange={(v) => onView({ ...view, ghost: v === "" ? null : Number(v) })}
                  className="w-40"
                >
                  <option value="">no bout behind it</option>
                  {bouts.map((b, n) =>
                    b.strides > 0 && n !== k ? (
                      <option key={b.start_s} value={n}>
                        {b.label} {b.start_s.toFixed(1)} s
                      </option>
                    ) : null,
                  )}
                </Choice>
              )}
            </div>
          )}
        </div>
      </div>
      <Tabs.Root value={tab} onValueChange={setTab} className="mt-1 flex min-h-0 grow flex-col">
        <Tabs.List
          className="border-ink flex gap-4 border-b"
          aria-label="What was found and marked"
        >
          {TABS.map((name) => (
            <Tabs.Trigger
              key={name}
              value={name}
              className="text-soft data-[state=active]:border-clay data-[state=active]:text-ink min-h-9 border-b-3 border-transparent first-letter:uppercase"
            >
              {name}
            </Tabs.Trigger>
          ))}
        </Tabs.List>
        <Tabs.Content value="findings" className="min-h-0 grow overflow-y-auto">
          <Findings analysis={desk.analysis} jump={jump} loop={loop} />
        </Tabs.Content>
        <Tabs.Content value="figures" className="min-h-0 grow overflow-y-auto">
          {bout && bout.strides > 0 ? (
            <Figures bout={bout} all={bouts} />
          ) : (
            <NoFigures bout={bout} />
          )}
        </Tabs.Content>
        <Tabs.Content value="work" className="min-h-0 grow overflow-y-auto">
          <Work desk={desk} jump={jump} />
        </Tabs.Content>
        <Tabs.Content value="marked" className="min-h-0 grow overflow-y-auto">
          <TagList tags={state.tags} store={store} slow={slow} jump={jump} onRidden={onRidden} />
          <CheckList checks={desk.checks} jump={jump} />
        </Tabs.Content>
        <Tabs.Content value="clip" className="min-h-0 grow overflow-y-auto">
          <ClipSheet clip={clip} clock={clock} store={store} settings={desk.settings} />
          <Repeat clip={clip.id} clock={clock} store={store} state={state} />
        </Tabs.Content>
      </Tabs.Root>
    </section>
  );
});

/** The bout at a time, or the last one before it, or the first. */
function boutAt(bouts: readonly Schemas["BoutSaid"][], s: number): number {
  return Math.max(
    0,
    bouts.findLastIndex((b) => b.start_s <= s + 1e-6),
  );
}

/** The stride at a time as a wheel of its own. */
function strideAt(wheel: WheelData, s: number): WheelData | null {
  const stride = wheel.strides.find((k) => {
    const [from, to] = k.at_s ?? [];
    return from !== undefined && to !== undefined && s >= from - 1e-6 && s < to;
  });
  return stride ? { ...wheel, strides: [stride], mean: stride, air: [], leg_windows: [] } : null;
}

/** Place in the stride at a time. */
function handAt(wheel: WheelData, s: number): number | null {
  const [from, to] = strideAt(wheel, s)?.strides[0]?.at_s ?? [];
  return from !== undefined && to !== undefined ? (s - from) / (to - from) : null;
}
