import { useSyncExternalStore } from "react";

import type { FrameClock } from "../live/frame-clock";
import type { KeyMap } from "../live/keys";
import type { Look } from "../picture/look";

type Props = {
  clock: FrameClock;
  keys: KeyMap;
  slow: number;
  look: Look;
  help: boolean;
  onWhole: () => void;
};

/** Which frame this is, how to move, and how close the picture is. */
export function Steps({ clock, keys, slow, look, help, onWhole }: Props) {
  const { frame, playing, seeking } = useSyncExternalStore(clock.subscribe, clock.snapshot);
  const seconds = ((clock.times[frame] ?? 0) - (clock.times[0] ?? 0)) / 1e6 / slow;
  const step = "hover:bg-dune min-h-9 rounded-[3px] px-2.5";
  return (
    <div className="flex shrink-0 items-center gap-2">
      <button type="button" className={step} onClick={() => clock.step(-1)}>
        back <kbd className="text-soft font-mono text-xs">{keys.keyFor("back")}</kbd>
      </button>
      <button type="button" className={step} onClick={() => clock.toggle()}>
        {playing ? "stop" : "play"}{" "}
        <kbd className="text-soft font-mono text-xs">{keys.keyFor("play")}</kbd>
      </button>
      <button type="button" className={step} onClick={() => clock.step(1)}>
        on <kbd className="text-soft font-mono text-xs">{keys.keyFor("on")}</kbd>
      </button>
      <p
        className="font-mono text-[0.95rem] whitespace-nowrap"
        data-testid="frame"
        aria-busy={seeking}
      >
        <span className="text-soft">frame</span> {frame + 1}
        <span className="text-soft">/{clock.times.length}</span>
        <span className="ml-3">{seconds.toFixed(3)} s</span>
      </p>
      <p className="text-soft min-w-0 grow truncate text-right text-sm">
        {help
          ? `${keys.keyFor("before")} ${keys.keyFor("next")} hoof · arrows move the cross (Shift: 10 px) · Enter clicks · ${keys.keyFor("closer")} ${keys.keyFor("wider")} closer · ${keys.keyFor("undo")} undo`
          : `${keys.keyFor("help")} keys`}
      </p>
      {look.close > 1 && (
        <button type="button" className={step} onClick={onWhole}>
          {look.close.toFixed(1)}× · whole picture
        </button>
      )}
    </div>
  );
}
