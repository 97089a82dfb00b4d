import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef } from "react";

import { api, inWords, type Schemas, taken } from "../api/client";
import { jobsQuery } from "../api/queries";
import type { DeskState, DeskStore } from "../live/clip-store";
import type { FrameClock } from "../live/frame-clock";
import type { KeyMap } from "../live/keys";
import { isOpen } from "../live/suggestions";
import { Button } from "../ui/button";
import { takeBout, takeMarks } from "./acts";
import type { Kind } from "./clicks-view";

type Props = {
  clip: Schemas["ClipView"];
  clock: FrameClock;
  store: DeskStore;
  state: DeskState;
  keys: KeyMap;
  onLook: () => void;
  /** Something is to be shown by clicks. */
  onShow: (kind: Kind) => void;
};

type Job = Schemas["JobLine"];

/** What the clip told of by itself: being looked for, waiting for an answer, or why there is nothing. */
export function FoundBar({ clip, clock, store, state, keys, onLook, onShow }: Props) {
  const client = useQueryClient();
  const job = useLooking(clip.id, store);
  const find = useMutation({
    mutationFn: () =>
      taken(api.POST("/api/clips/{clip}/find", { params: { path: { clip: clip.id } } })),
    onSettled: () => client.invalidateQueries(jobsQuery),
  });
  const stop = useMutation({
    mutationFn: (id: number) =>
      taken(api.POST("/api/jobs/{job}/cancel", { params: { path: { job: id } } })),
    onSettled: () => client.invalidateQueries(jobsQuery),
  });
  const { found } = state.desk;
  const open = state.marks.filter(isOpen);
  if (job) {
    return (
      <Line>
        <span>
          {job.state === "waiting"
            ? "Footfalls are looked for soon."
            : "Looking for the footfalls …"}
        </span>
        <progress
          className="h-2 w-48 accent-[var(--clay)]"
          aria-label="Looking for the footfalls"
          value={job.progress}
        />
        <span className="text-soft grow">{left(job)}</span>
        <Button plain onClick={() => stop.mutate(job.id)}>
          Stop
        </Button>
      </Line>
    );
  }
  if (open.length > 0) {
    const doubtful = (found?.doubtful.length ?? 0) + (found?.missed.length ?? 0);
    return (
      <Line>
        <span className="grow">
          Suggested, and counted nowhere else before you take {open.length === 1 ? "it" : "them"}.
        </span>
        {doubtful > 0 && (
          <Button onClick={onLook}>
            Look at the {doubtful === 1 ? "doubtful place" : `${doubtful} doubtful places`}{" "}
            <kbd className="font-mono text-xs opacity-80">{keys.keyFor("look")}</kbd>
          </Button>
        )}
        {state.desk.analysis.bouts.length > 1 && (
          <Button plain onClick={() => takeBout(clock, store)}>
            Take this bout <kbd className="font-mono text-xs">{keys.keyFor("takeBout")}</kbd>
          </Button>
        )}
        <Button plain onClick={() => takeMarks(store, open)}>
          Take all {open.length}
        </Button>
        <Button plain onClick={() => onShow("wraps")}>
          Wraps …
        </Button>
        <Button plain onClick={() => onShow("hooves")}>
          Hooves …
        </Button>
        <Button
          plain
          onClick={() => store.change(open.slice(0, 5000).map((m) => ({ before: m, after: null })))}
        >
          Away with them
        </Button>
      </Line>
    );
  }
  if (clip.codec === "table") return null;
  if (find.error) return <Line alert>{inWords(find.error)}</Line>;
  if (found?.says) {
    return (
      <Line>
        <span className="grow">{found.says}</span>
        <Button plain onClick={() => onShow("wraps")}>
          Wraps …
        </Button>
        <Button plain onClick={() => onShow("hooves")}>
          Hooves …
        </Button>
        <Button plain onClick={() => find.mutate()}>
          Look again
        </Button>
      </Line>
    );
  }
  if (state.marks.length > 0) return null;
  return (
    <Line>
      <span className="text-soft grow">No footfall is timed yet.</span>
      <Button onClick={() => find.mutate()}>Find the footfalls</Button>
    </Line>
  );
}

function Line({ children, alert = false }: { children: React.ReactNode; alert?: boolean }) {
  return (
    <div
      role={alert ? "alert" : "status"}
      className="border-line flex min-h-9 flex-wrap items-center gap-x-3 gap-y-1 border-y py-0.5 text-[0.95rem]"
    >
      {children}
    </div>
  );
}

/** The job that looks for this clip's footfalls, while there is one; when it ends, what it found is read. */
function useLooking(clip: number, store: DeskStore): Job | null {
  const jobs = useQuery({
    ...jobsQuery,
    refetchInterval: (q) => (q.state.data?.some((j) => isOf(j, clip)) ? 1000 : 10_000),
  });
  const job = jobs.data?.find((j) => isOf(j, clip)) ?? null;
  const was = useRef(false);
  useEffect(() => {
    if (was.current && !job) void store.look();
    was.current = job !== null;
  }, [job, store]);
  return job;
}

const isOf = (job: Job, clip: number) =>
  job.clip === clip &&
  job.kind === "footfalls" &&
  (job.state === "running" || job.state === "waiting");

function left(job: Job): string {
  if (typeof job.left_s !== "number") return "";
  return job.left_s < 90
    ? `about ${Math.max(1, Math.round(job.left_s))} s left`
    : `about ${Math.round(job.left_s / 60)} min left`;
}
