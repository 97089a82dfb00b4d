import { Tabs } from "radix-ui";
import { useSyncExternalStore } from "react";

import type { Schemas } from "../api/client";
import { Wheel } from "../wheel/wheel";
import { ClipSheet } from "./clip-sheet";
import type { DeskStore } from "./desk-store";
import { Figures } from "./figures";
import { Findings } from "./findings";
import type { FrameClock } from "./frame-clock";

type Props = {
  clip: Schemas["ClipView"];
  clock: FrameClock;
  store: DeskStore;
  desk: Schemas["Desk"];
  jump: (seconds: number) => void;
};

/** The bout under the playhead on its wheel, and what was found. */
export function Reading({ clip, clock, store, desk, jump }: Props) {
  const slow = desk.settings.slow_factor;
  const us = useSyncExternalStore(clock.subscribe, () => clock.now());
  const now = us / 1e6 / slow;
  const bouts = desk.analysis.bouts;
  const k = boutAt(bouts, now);
  const bout = bouts[k];
  const wheel = desk.wheels[k] ?? null;
  return (
    <section className="flex min-h-0 flex-col" aria-label="Reading">
      <div className="flex shrink-0 items-center gap-3">
        <Wheel wheel={wheel} size={232} hand={wheel ? handAt(wheel, now) : null} />
        <div className="min-w-0">
          <h2 className="text-[1.3rem] leading-tight font-medium">
            {bout ? bout.label : "No stride yet"}
          </h2>
          {bout ? <BoutLines bout={bout} k={k} of={bouts.length} /> : <FirstSteps />}
        </div>
      </div>
      <Tabs.Root defaultValue="findings" className="mt-1 flex min-h-0 grow flex-col">
        <Tabs.List className="border-ink flex gap-4 border-b" aria-label="Findings, figures, clip">
          {["findings", "figures", "clip"].map((tab) => (
            <Tabs.Trigger
              key={tab}
              value={tab}
              className="text-soft data-[state=active]:border-clay data-[state=active]:text-ink min-h-9 border-b-3 border-transparent first-letter:uppercase"
            >
              {tab}
            </Tabs.Trigger>
          ))}
        </Tabs.List>
        <Tabs.Content value="findings" className="min-h-0 grow overflow-y-auto">
          <Findings analysis={desk.analysis} jump={jump} />
        </Tabs.Content>
        <Tabs.Content value="figures" className="min-h-0 grow overflow-y-auto">
          {bout ? <Figures bout={bout} /> : null}
        </Tabs.Content>
        <Tabs.Content value="clip" className="min-h-0 grow overflow-y-auto">
          <ClipSheet clip={clip} clock={clock} store={store} settings={desk.settings} />
        </Tabs.Content>
      </Tabs.Root>
    </section>
  );
}

function BoutLines({ bout, k, of }: { bout: Schemas["Bout"]; k: number; of: number }) {
  const verdict = { true: "true", counter: "counter canter", wrong: "not the lead wanted" };
  const said = bout.lead_verdict && verdict[bout.lead_verdict as keyof typeof verdict];
  return (
    <div className="text-soft text-sm">
      {said && <p>{said}</p>}
      <p>
        {bout.strides} strides{of > 1 ? `, bout ${k + 1} of ${of}` : ""}
      </p>
      {bout.beats_per_min ? <p>{bout.beats_per_min.toFixed(0)} beats/min</p> : null}
      <p>{Math.round(bout.confidence * 100)} % sure of the gait</p>
    </div>
  );
}

function FirstSteps() {
  return (
    <p className="text-soft text-sm">
      Step with A and D to the frame in which a hoof first touches the ground, and tap its key.
    </p>
  );
}

/** The bout at a time, or the last one before it, or the first. */
function boutAt(bouts: readonly Schemas["Bout"][], s: number): number {
  return Math.max(
    0,
    bouts.findLastIndex((b) => b.start_s <= s + 1e-6),
  );
}

/** Place in the stride at a time. */
function handAt(wheel: Schemas["Wheel"], s: number): number | null {
  for (const stride of wheel.strides) {
    const [from, to] = stride.at_s ?? [];
    if (from !== undefined && to !== undefined && s >= from - 1e-6 && s < to) {
      return (s - from) / (to - from);
    }
  }
  return null;
}
