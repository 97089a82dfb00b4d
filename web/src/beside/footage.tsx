import { useQuery } from "@tanstack/react-query";
import { useEffect, useMemo, useRef, useState, useSyncExternalStore } from "react";

import { api, type Schemas, taken } from "../api/client";
import { FrameClock } from "../live/frame-clock";
import { Button } from "../ui/button";
import { HoofBoard } from "./hoof-board";
import { follow, pairs, type Way } from "./lock";
import { takesLetters } from "../live/takes-letters";

type Side = Schemas["SideView"];
type Loaded = { clip: Schemas["ClipView"]; desk: Schemas["Desk"]; times: number[] };

const WAYS: readonly [Way, string][] = [
  ["stride", "stride for stride"],
  ["beat", "beat for beat"],
  ["plain", "plain time"],
];

/** The footage of both sides, the second following the first. */
export function Footage({ a, b }: { a: Side; b: Side }) {
  const [one, two] = [useLoaded(a), useLoaded(b)];
  if (!one || !two) return null;
  return <Locked key={`${one.clip.id} ${two.clip.id}`} {...{ a, b, one, two }} />;
}

function useLoaded(side: Side): Loaded | undefined {
  const params = { path: { clip: side.shown.clip } };
  return useQuery({
    queryKey: ["beside-clip", side.shown.clip],
    queryFn: async (): Promise<Loaded> => {
      const [clip, frames, desk] = await Promise.all([
        taken(api.GET("/api/clips/{clip}", { params })),
        taken(api.GET("/api/clips/{clip}/frames", { params })),
        taken(api.GET("/api/clips/{clip}/desk", { params })),
      ]);
      return { clip, desk, times: frames.times_us };
    },
  }).data;
}

type LockedProps = { a: Side; b: Side; one: Loaded; two: Loaded };

function Locked({ a, b, one, two }: LockedProps) {
  const [way, setWay] = useState<Way>("stride");
  const first = useMemo(() => new FrameClock(one.times), [one.times]);
  const second = useMemo(() => new FrameClock(two.times), [two.times]);
  const { frame, playing } = useSyncExternalStore(first.subscribe, first.snapshot);
  const locked = useMemo(() => pairs(stretch(a, one), stretch(b, two), way), [a, b, one, two, way]);
  const now = one.times[frame] ?? 0;
  // Whatever frame the first shows, the second goes to the one that belongs to it.
  useEffect(() => second.goToTime(follow(locked, now)), [second, locked, now]);
  useEffect(() => {
    first.setRate(0.25);
    first.goToTime(locked[0]?.[0] ?? 0);
  }, [first, locked]);
  useEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      if (takesLetters(e.target) || e.ctrlKey || e.metaKey || e.altKey) return;
      const key = e.key.toLowerCase();
      if (key === "a" || key === "d") first.step((key === "a" ? -1 : 1) * (e.shiftKey ? 10 : 1));
      else if (key === "s" && !e.repeat) first.toggle();
      else return;
      e.preventDefault();
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [first]);
  return (
    <section className="mt-3" aria-label="Footage">
      <div className="grid grid-cols-2 gap-2">
        <Shown loaded={one} clock={first} says={a.short} which="first" />
        <Shown loaded={two} clock={second} says={b.short} which="second" />
      </div>
      <div className="mt-1 flex items-center gap-3">
        <Button plain onClick={() => first.step(-1)}>
          back <kbd className="text-soft font-mono text-xs">A</kbd>
        </Button>
        <Button plain onClick={() => first.toggle()}>
          {playing ? "stop" : "play at ¼"} <kbd className="text-soft font-mono text-xs">S</kbd>
        </Button>
        <Button plain onClick={() => first.step(1)}>
          on <kbd className="text-soft font-mono text-xs">D</kbd>
        </Button>
        <div role="group" aria-label="Locked" className="flex grow justify-end gap-1">
          {WAYS.map(([w, says]) => (
            <button
              key={w}
              type="button"
              aria-pressed={way === w}
              onClick={() => setWay(w)}
              className={`min-h-9 rounded-[3px] px-2.5 ${way === w ? "bg-ink text-sand" : "hover:bg-dune"}`}
            >
              {says}
            </button>
          ))}
        </div>
      </div>
    </section>
  );
}

function stretch(side: Side, loaded: Loaded) {
  const us = loaded.desk.settings.slow_factor * 1e6;
  const { start_s, end_s } = side.shown;
  return {
    marks: loaded.desk.marks ?? [],
    from_us: Math.round(start_s * us) - 1,
    to_us: Math.round(end_s * us) + 1,
  };
}

type FilmProps = { loaded: Loaded; clock: FrameClock; says: string; which: string };

/** The film, or the footfalls of a ride that came without one. */
function Shown(props: FilmProps) {
  const { loaded, clock, says, which } = props;
  if (loaded.clip.media) return <Film {...props} />;
  return <HoofBoard marks={loaded.desk.marks ?? []} clock={clock} says={says} which={which} />;
}

function Film({ loaded, clock, says, which }: FilmProps) {
  const video = useRef<HTMLVideoElement>(null);
  const { frame, seeking } = useSyncExternalStore(clock.subscribe, clock.snapshot);
  const { media, media_shift_us: shift } = loaded.clip;
  useEffect(
    () => (video.current ? clock.attach(video.current, shift) : undefined),
    [clock, media, shift],
  );
  return (
    <figure className="relative aspect-video overflow-hidden rounded-[3px] bg-[#12161a]">
      <video
        ref={video}
        src={media ?? undefined}
        muted
        playsInline
        preload="auto"
        className={`absolute inset-0 size-full object-contain ${loaded.desk.settings.mirrored ? "-scale-x-100" : ""}`}
      />
      <figcaption className="bg-chalk absolute bottom-1 left-1 rounded-[2px] px-1.5 text-sm">
        {says} · frame{" "}
        <span className="font-mono" data-testid={`${which}-frame`} aria-busy={seeking}>
          {frame + 1}
        </span>
      </figcaption>
    </figure>
  );
}
