import { memo, useSyncExternalStore } from "react";

import { HoofPad } from "./hoof-pad";
import type { FrameClock } from "../live/frame-clock";
import type { KeyMap } from "../live/keys";
import type { Marking } from "../live/marking";

export const RATES = [1, 0.5, 0.25, 0.125] as const;
const RATE_WORDS = ["1", "½", "¼", "⅛"];

type Props = { clock: FrameClock; marking: Marking; keys: KeyMap; slow: number };

/** Which frame this is, how to move, and the four hooves. */
export const Transport = memo(function Transport({ clock, marking, keys, slow }: Props) {
  const { frame, playing, rate, seeking } = useSyncExternalStore(clock.subscribe, clock.snapshot);
  const first = clock.times[0] ?? 0;
  const seconds = ((clock.times[frame] ?? 0) - first) / 1e6 / slow;
  return (
    <div className="flex shrink-0 items-center gap-3">
      <div className="flex items-center">
        <Key letter={keys.keyFor("back")} says="A frame back" onClick={() => clock.step(-1)}>
          ‹
        </Key>
        <Key
          letter={keys.keyFor("play")}
          says={playing ? "Stop" : "Play"}
          onClick={() => clock.toggle()}
          wide
        >
          {playing ? "stop" : "play"}
        </Key>
        <Key letter={keys.keyFor("on")} says="A frame on" onClick={() => clock.step(1)}>
          ›
        </Key>
      </div>
      <p
        className="font-mono text-[0.95rem] whitespace-nowrap"
        data-testid="frame"
        aria-busy={seeking}
      >
        <span className="text-soft">frame</span> {frame + 1}
        <span className="text-soft">/{clock.times.length}</span>
        <span className="ml-3">{seconds.toFixed(3)} s</span>
      </p>
      <div role="group" aria-label="Speed" className="flex grow items-center justify-end">
        <kbd className="text-soft mr-1 font-mono text-xs">{keys.keyFor("speed")}</kbd>
        {RATES.map((r, k) => (
          <button
            key={r}
            type="button"
            aria-pressed={rate === r}
            onClick={() => clock.setRate(r)}
            className={`min-h-9 min-w-9 rounded-[3px] text-lg leading-none ${rate === r ? "bg-ink text-sand" : "hover:bg-dune"}`}
          >
            {RATE_WORDS[k]}
          </button>
        ))}
      </div>
      <HoofPad marking={marking} keys={keys} />
    </div>
  );
});

type KeyProps = {
  letter: string;
  says: string;
  wide?: boolean;
  onClick: () => void;
  children: string;
};

function Key({ letter, says, wide, onClick, children }: KeyProps) {
  return (
    <button
      type="button"
      aria-label={says}
      onClick={onClick}
      className={`hover:bg-dune flex min-h-11 flex-col items-center justify-center rounded-[3px] leading-none ${wide ? "w-16" : "w-11"}`}
    >
      <span className={wide ? "text-base" : "text-2xl leading-5"}>{children}</span>
      <kbd className="text-soft mt-0.5 font-mono text-xs">{letter}</kbd>
    </button>
  );
}
