import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
import { Tabs } from "radix-ui";
import { useEffect, useState, useSyncExternalStore } from "react";

import { useSearchParams } from "react-router";

import type { Schemas } from "../api/client";
import { groundQuery, yardQuery } from "../api/queries";
import type { ScreenProps } from "../live/clip-page";
import { name } from "../live/names";
import { useKeyMap } from "../live/key-map";
import { Drawing } from "../ui/drawing";
import { NAMES } from "../ui/limbs";
import { Notice } from "../ui/notice";
import {
  type Aim,
  aimInWords,
  type Calibration,
  foretold,
  type Ground,
  nextHoof,
  type Pixel,
  standing,
  STILL_POINTS,
} from "./aim";
import { HoofDots, ScaleDots, StillDots } from "./dots";
import { FindingsPanel } from "./findings-panel";
import { GroundHead } from "./ground-head";
import { GroundPlan } from "./ground-plan";
import { HoovesPanel } from "./hooves-panel";
import { closer, lookAt, whole } from "../picture/look";
import { Picture } from "../picture/picture";
import { ScalePanel } from "./scale-panel";
import { StillPanel } from "./still-panel";
import { Steps } from "./steps";
import { useGroundKeys } from "./use-ground-keys";

const JOBS = ["found", "scale", "hooves", "still"] as const;
type Job = (typeof JOBS)[number];

/** The Ground desk: scale, hoof clicks and stills of one clip, and what they tell. */
export function GroundDesk({ clip, clock, store }: ScreenProps) {
  const state = useSyncExternalStore(store.subscribe, store.snapshot);
  const { frame } = useSyncExternalStore(clock.subscribe, clock.snapshot);
  const { keys } = useKeyMap();
  const read = useQuery({
    ...groundQuery(clip.id, state.desk.revision),
    placeholderData: keepPreviousData,
  });
  const asked = Number(useSearchParams()[0].get("still") ?? NaN);
  const [job, setJob] = useState<Job>(Number.isFinite(asked) ? "still" : "found");
  useEffect(() => {
    if (Number.isFinite(asked)) clock.goToTime(asked);
  }, [asked, clock]);
  const [aim, setAim] = useState<Aim | null>(null);
  const [cursor, setCursor] = useState<Pixel | null>(null);
  const [look, setLook] = useState(whole(clip));
  const [help, setHelp] = useState(false);
  const { mirrored = false } = state.desk.settings;
  const now = clock.times[frame] ?? 0;

  const client = useQueryClient();
  useEffect(() => () => void client.invalidateQueries(yardQuery), [client]);

  const ground = read.data;
  const own = store.pendingCalibration() ?? ground?.calibration ?? null;
  const still = stillHere(state.tags, now);

  const aimAt = (next: Aim | null) => {
    setAim(next);
    const mark = next?.kind === "hoof" ? state.marks.find((m) => m.id === next.mark) : undefined;
    if (!mark) return;
    clock.goToTime(standing(mark));
    const there = mark.hoof ?? foretold(state.marks, standing(mark));
    if (there) {
      setCursor(there);
      setLook(lookAt(look, clip, there, mirrored));
    }
  };
  const change = (next: Partial<Calibration>) => own && store.calibrate({ ...own, ...next });
  const click = (p: Pixel) => {
    if (!aim || !ground || !own) return;
    const seen = { x_px: round(p.x_px), y_px: round(p.y_px) };
    if (aim.kind === "hoof") {
      const mark = state.marks.find((m) => m.id === aim.mark);
      if (!mark) return setAim(null);
      store.change([{ before: mark, after: { ...mark, hoof: seen } }]);
      const marks = state.marks.map((m) => (m.id === mark.id ? { ...m, hoof: seen } : m));
      const next = nextHoof(ground, marks, standing(mark));
      aimAt(next === null ? null : { kind: "hoof", mark: next });
    } else if (aim.kind === "point") {
      const { name: of, x_m, y_m } = aim;
      change({
        points: [...own.points.filter((q) => q.name !== of), { name: of, x_m, y_m, seen }],
      });
      setAim(null);
    } else if (aim.kind === "bar") {
      change({ bar: [...own.bar.filter((q) => q.at_m !== aim.at_m), { at_m: aim.at_m, seen }] });
      setAim(null);
    } else if (aim.kind === "withers") {
      change({ withers: aim.which === 0 ? [seen] : [own.withers[0] ?? seen, seen] });
      setAim(aim.which === 0 ? { kind: "withers", which: 1 } : null);
    } else {
      putStillPoint(aim.point, seen);
    }
  };
  const putStillPoint = (point: string, seen: Pixel) => {
    const before = still;
    const what =
      before?.what.kind === "still" ? before.what : { kind: "still" as const, points: {} };
    const after = {
      id: before?.id ?? name(),
      from_us: before?.from_us ?? now,
      to_us: null,
      what: { ...what, points: { ...what.points, [point]: seen } },
    };
    store.change([], [{ before: before ?? null, after }]);
    const k = STILL_POINTS.findIndex(([p]) => p === point);
    const next = STILL_POINTS.slice(k + 1).find(([p]) => !(p in what.points));
    setAim(next ? { kind: "still", point: next[0] } : null);
  };
  const stepHoof = (to: 1 | -1) => {
    const sorted = [...state.marks].sort((a, b) => standing(a) - standing(b));
    const here = aim?.kind === "hoof" ? sorted.findIndex((m) => m.id === aim.mark) : -1;
    const next =
      here >= 0
        ? sorted[here + to]
        : to > 0
          ? sorted.find((m) => standing(m) > now)
          : sorted.findLast((m) => standing(m) < now);
    if (!next) return;
    setJob("hooves");
    aimAt({ kind: "hoof", mark: next.id });
  };
  useGroundKeys({
    clock,
    store,
    keys,
    aiming: aim !== null,
    nudge: (dx, dy) => {
      const p = cursor ?? { x_px: clip.width / 2, y_px: clip.height / 2 };
      setCursor({ x_px: p.x_px + (mirrored ? -dx : dx), y_px: p.y_px + dy });
    },
    set: () => cursor && click(cursor),
    stop: () => setAim(null),
    hoof: stepHoof,
    zoom: (by) => setLook(closer(look, clip, cursor ?? middle(clip), by, mirrored)),
    help: () => setHelp(!help),
  });
  if (!ground || !own) return <main className="text-soft p-10">Reading the ground …</main>;
  const asks = aim ? aimInWords(aim, state.marks, NAMES) : null;
  return (
    <main className="mx-auto flex h-dvh min-h-[640px] max-w-[1680px] flex-col gap-2 px-5 pt-2 pb-2">
      <GroundHead clip={clip} ground={ground} state={state} store={store} />
      {state.message && <Notice text={state.message} onClose={() => store.dismiss()} />}
      {read.isError && <Notice text={read.error.message} />}
      <div className="grid min-h-0 grow grid-cols-[minmax(0,1fr)_440px] gap-5">
        <div className="flex min-h-0 min-w-0 flex-col gap-2">
          <Picture
            {...{ clip, clock, mirrored, look, cursor, asks }}
            onLook={setLook}
            onCursor={setCursor}
            onClick={click}
          >
            {(at) => (
              <>
                {(job === "scale" || job === "found") && <ScaleDots own={own} at={at} />}
                {(job === "hooves" || job === "found") && (
                  <HoofDots
                    marks={state.marks}
                    now={now}
                    aimed={aim?.kind === "hoof" ? aim.mark : null}
                    at={at}
                  />
                )}
                {job === "still" && still?.what.kind === "still" && (
                  <StillDots still={still.what} at={at} />
                )}
              </>
            )}
          </Picture>
          <Steps
            {...{ clock, keys, look, help }}
            slow={state.desk.settings.slow_factor}
            onWhole={() => setLook(whole(clip))}
          />
          {job !== "still" && (
            <Drawing name="ground-plan" className="shrink-0">
              <GroundPlan ground={ground} own={own} />
            </Drawing>
          )}
        </div>
        <Tabs.Root
          value={job}
          onValueChange={(v) => {
            setJob(v as Job);
            setAim(null);
          }}
          className="flex min-h-0 flex-col"
        >
          <Tabs.List aria-label="What to do" className="border-ink flex shrink-0 gap-1 border-b">
            {JOBS.map((j) => (
              <Tabs.Trigger
                key={j}
                value={j}
                className="text-soft data-[state=active]:text-ink data-[state=active]:border-clay min-h-9 border-b-3 border-transparent px-2.5"
              >
                {jobName(j, ground)}
              </Tabs.Trigger>
            ))}
          </Tabs.List>
          <div className="min-h-0 grow overflow-y-auto pt-2 pr-1">
            <Tabs.Content value="found">
              <FindingsPanel
                ground={ground}
                slow={state.desk.settings.slow_factor}
                clock={clock}
                onJob={setJob}
              />
            </Tabs.Content>
            <Tabs.Content value="scale">
              <ScalePanel
                {...{ clip, ground, own, aim, clock, store }}
                onAim={aimAt}
                onChange={change}
              />
            </Tabs.Content>
            <Tabs.Content value="hooves">
              <HoovesPanel
                {...{ ground, aim, store }}
                marks={state.marks}
                onAim={aimAt}
                now={now}
              />
            </Tabs.Content>
            <Tabs.Content value="still">
              <StillPanel {...{ ground, still, aim, store, clock }} onAim={aimAt} />
            </Tabs.Content>
          </div>
        </Tabs.Root>
      </div>
    </main>
  );
}

function jobName(job: Job, ground: Ground): string {
  if (job === "hooves") {
    const done = ground.hooves.length;
    return `Hooves ${done}/${done + ground.to_click.length}`;
  }
  if (job === "still") return ground.stills.length > 0 ? `Stills ${ground.stills.length}` : "Still";
  return job === "found" ? "Found" : "Scale";
}

/** The still of the frame on screen. */
function stillHere(tags: readonly Schemas["Tag"][], now: number) {
  return tags.find((t) => t.what.kind === "still" && Math.abs(t.from_us - now) < 1000) ?? null;
}

const round = (v: number) => Math.round(v * 100) / 100;
const middle = (clip: { width: number; height: number }): Pixel => ({
  x_px: clip.width / 2,
  y_px: clip.height / 2,
});
