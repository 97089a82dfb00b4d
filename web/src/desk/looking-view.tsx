import { type ReactNode, useEffect, useMemo, useRef, useSyncExternalStore } from "react";

import type { Schemas } from "../api/client";
import type { Mark } from "../live/clip-store";
import { FrameClock, nearest } from "../live/frame-clock";
import type { KeyMap } from "../live/keys";
import type { Looking } from "../live/looking";
import { LimbMark, NAMES } from "../ui/limbs";

type Props = {
  clip: Schemas["ClipView"];
  looking: Looking;
  times: readonly number[];
  mirrored: boolean;
  keys: KeyMap;
  slow: number;
};

/** Before and after the moment in question, true seconds. */
const APART_S = 0.025;
/** How much larger than the whole picture. */
const CLOSE = 6;

/** One doubtful suggestion: the hoof and its ground before, at and after the moment. */
export function LookingView({ clip, looking, times, mirrored, keys, slow }: Props) {
  const { mark, missed, left, message } = useSyncExternalStore(looking.subscribe, looking.snapshot);
  useEffect(() => {
    if (!message) return;
    const read = setTimeout(() => looking.stop(), 4000);
    return () => clearTimeout(read);
  }, [message, looking]);
  if (message) {
    return (
      <p role="status" className="bg-chalk text-ink absolute inset-x-4 top-4 px-3 py-2">
        {message}
      </p>
    );
  }
  if (!mark || !clip.media) return null;
  const on = nearest(times, mark.on_us);
  const step = Math.max(1, nearest(times, (times[on] ?? 0) + APART_S * slow * 1e6) - on);
  const first = times[0] ?? 0;
  const of = mark.origin?.how === "suggested" ? mark.origin : null;
  return (
    <div className="absolute inset-0 flex flex-col bg-[#12161a]">
      <div className="bg-chalk text-ink px-3 py-1 text-[0.95rem]" role="status">
        <p className="flex flex-wrap items-center gap-x-2">
          <svg width={16} height={16} aria-hidden>
            <LimbMark limb={mark.limb} x={8} y={8} r={5} />
          </svg>
          <strong className="font-medium">
            {NAMES[mark.limb]}
            {of &&
              `, ${Math.round(100 * (of.sure ?? 0))} % sure, known to ±${(1000 * of.sd_s).toFixed(0)} ms`}
          </strong>
          <span>{of ? of.why : missed ? "due here, and not found" : "moved by you"}</span>
          <span className="text-soft ml-auto">
            {left === 0 ? "the last that wants a look" : `${left} more after it`}
          </span>
        </p>
        <p>
          <Key>{keys.keyFor("take")}</Key> {missed ? "puts it there" : "takes it"};{" "}
          <Key>{keys.keyFor("back")}</Key> <Key>{keys.keyFor("on")}</Key> a frame earlier, later;
          its hoof’s key or <Key>{keys.keyFor("swap")}</Key> another limb;{" "}
          <Key>{keys.keyFor("delete")}</Key> no footfall; <Key>{keys.keyFor("look")}</Key> leaves
          it; <Key>Escape</Key> ends.
        </p>
      </div>
      <ol className="grid min-h-0 grow grid-cols-3 gap-0.5">
        {[-step, 0, step].map((by) => {
          const frame = Math.min(Math.max(on + by, 0), times.length - 1);
          const at = ((times[frame] ?? 0) - first) / 1e6 / slow;
          const apart = ((times[frame] ?? 0) - (times[on] ?? 0)) / 1e3 / slow;
          return (
            <Tile
              key={by}
              {...{ clip, mark, frame, times, mirrored }}
              says={
                by === 0
                  ? `${at.toFixed(3)} s`
                  : `${apart < 0 ? "−" : "+"}${Math.abs(apart).toFixed(0)} ms`
              }
              middle={by === 0}
            />
          );
        })}
      </ol>
    </div>
  );
}

function Key({ children }: { children: ReactNode }) {
  return <kbd className="font-mono font-medium">{children}</kbd>;
}

type TileProps = {
  clip: Schemas["ClipView"];
  mark: Mark;
  frame: number;
  times: readonly number[];
  mirrored: boolean;
  says: string;
  middle: boolean;
};

function Tile({ clip, mark, frame, times, mirrored, says, middle }: TileProps) {
  const video = useRef<HTMLVideoElement>(null);
  const clock = useMemo(() => new FrameClock(times), [times]);
  const shift = clip.media_shift_us;
  useEffect(() => (video.current ? clock.attach(video.current, shift) : undefined), [clock, shift]);
  useEffect(() => clock.goTo(frame), [clock, frame]);
  const x = mark.hoof ? (100 * mark.hoof.x_px) / clip.width : 50;
  const y = mark.hoof ? (100 * mark.hoof.y_px) / clip.height : 78;
  // The hoof in the middle of the tile, its ground a little below.
  const place = mirrored
    ? `scaleX(-1) translate(${x - 100}%, ${-y}%)`
    : `translate(${-x}%, ${-y}%)`;
  return (
    <li className="relative min-h-0 overflow-hidden">
      <video
        ref={video}
        src={clip.media ?? undefined}
        muted
        playsInline
        preload="auto"
        aria-label={`${NAMES[mark.limb]}, ${says}`}
        className="absolute top-[58%] left-1/2 h-auto max-w-none origin-top-left"
        style={{ width: `${100 * CLOSE}%`, transform: place }}
      />
      {mark.hoof && (
        <span
          aria-hidden
          className="absolute top-[58%] left-1/2 h-3 w-0.5 -translate-x-1/2 translate-y-3 bg-white/80"
        />
      )}
      {middle && <span aria-hidden className="border-clay absolute inset-0 border-4" />}
      <span className="bg-chalk text-ink absolute top-1 left-1 rounded-[2px] px-1.5 py-0.5 font-mono text-sm">
        {says}
      </span>
    </li>
  );
}
