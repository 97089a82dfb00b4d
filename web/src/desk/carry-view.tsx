import { type ReactNode, useEffect, useMemo, useRef, useSyncExternalStore } from "react";

import { LimbMark, NAMES } from "../ui/limbs";
import type { Carry } from "../live/carry";
import type { Mark } from "../live/clip-store";
import { FrameClock, nearest } from "../live/frame-clock";
import type { KeyMap } from "../live/keys";

type Props = {
  carry: Carry;
  media: string;
  shift: number;
  times: readonly number[];
  mirrored: boolean;
  keys: KeyMap;
  slow: number;
};

/** Four pictures at once: each foretold footfall on its own frame. */
export function CarryView({ carry, media, shift, times, mirrored, keys, slow }: Props) {
  const { marks, focus, message } = useSyncExternalStore(carry.subscribe, carry.snapshot);
  if (message) {
    return (
      <p role="status" className="bg-chalk text-ink absolute inset-x-4 top-4 px-3 py-2">
        {message}
      </p>
    );
  }
  if (marks.length === 0) return null;
  const first = times[0] ?? 0;
  return (
    <div className="absolute inset-0 flex flex-col bg-[#12161a]">
      <p className="bg-chalk text-ink px-3 py-1 text-[0.95rem]" role="status">
        Does each hoof just touch the ground? <Key>{keys.keyFor("carry")}</Key> takes the stride.{" "}
        <Key>
          {keys.keyFor("back")} {keys.keyFor("on")}
        </Key>{" "}
        moves it, after a hoof’s key that hoof alone; <Key>{keys.keyFor("swap")}</Key> left and
        right; <Key>Escape</Key> ends.
      </p>
      <ol className="grid min-h-0 grow grid-cols-2 grid-rows-2 gap-0.5">
        {marks.map((m) => (
          <Tile
            key={m.limb}
            mark={m}
            chosen={m.limb === focus}
            frame={nearest(times, m.on_us)}
            seconds={(m.on_us - first) / 1e6 / slow}
            keyName={keys.keyFor(m.limb)}
            {...{ media, shift, times, mirrored }}
            onChoose={() => carry.focus(m.limb)}
          />
        ))}
      </ol>
    </div>
  );
}

function Key({ children }: { children: ReactNode }) {
  return <kbd className="font-mono font-medium">{children}</kbd>;
}

type TileProps = {
  mark: Mark;
  chosen: boolean;
  frame: number;
  seconds: number;
  keyName: string;
  media: string;
  shift: number;
  times: readonly number[];
  mirrored: boolean;
  onChoose: () => void;
};

function Tile(props: TileProps) {
  const { mark, chosen, frame, seconds, keyName, media, shift, times, mirrored, onChoose } = props;
  const video = useRef<HTMLVideoElement>(null);
  const clock = useMemo(() => new FrameClock(times), [times]);
  useEffect(() => (video.current ? clock.attach(video.current, shift) : undefined), [clock, shift]);
  useEffect(() => clock.goTo(frame), [clock, frame]);
  return (
    <li className="relative min-h-0 overflow-hidden">
      <button
        type="button"
        aria-label={`${NAMES[mark.limb]}, frame ${frame + 1}, ${seconds.toFixed(3)} s`}
        aria-pressed={chosen}
        onClick={onChoose}
        className="absolute inset-0"
      >
        <video
          ref={video}
          src={media}
          muted
          playsInline
          preload="auto"
          // The horse stands in the middle of a picture that follows it; hooves are what counts.
          className={`absolute inset-0 size-full origin-[50%_78%] object-cover ${mirrored ? "-scale-x-150" : "scale-x-150"} scale-y-150`}
        />
        {chosen && <span aria-hidden className="border-clay absolute inset-0 border-4" />}
        <span className="bg-chalk text-ink absolute top-1 left-1 flex items-center gap-1.5 rounded-[2px] px-1.5 py-0.5 text-sm">
          <svg width={16} height={16} aria-hidden>
            <LimbMark limb={mark.limb} x={8} y={8} r={5} />
          </svg>
          {NAMES[mark.limb]} <kbd className="text-soft font-mono">{keyName}</kbd>
          <span className="font-mono">{seconds.toFixed(3)} s</span>
        </span>
      </button>
    </li>
  );
}
