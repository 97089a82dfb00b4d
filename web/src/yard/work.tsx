import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef } from "react";

import { api, type Schemas, taken } from "../api/client";
import { jobsQuery, yardQuery } from "../api/queries";
import { Button } from "../ui/button";

type Job = Schemas["JobLine"];

const MAKES: Record<string, string> = {
  proxy: "a copy that steps frame by frame",
  sound: "the sound’s outline",
  filmstrip: "the filmstrip",
  footfalls: "the footfalls",
};

/** What is being made of new footage, with the time left. */
export function Work() {
  const client = useQueryClient();
  const jobs = useQuery({
    ...jobsQuery,
    refetchInterval: (q) => (q.state.data?.some(isOpen) ? 1000 : 5000),
  });
  const cancel = useMutation({
    mutationFn: (job: number) =>
      taken(api.POST("/api/jobs/{job}/cancel", { params: { path: { job } } })),
    onSettled: () => client.invalidateQueries(jobsQuery),
  });
  const open = jobs.data?.filter(isOpen) ?? [];
  const busy = open.length > 0;
  const wasBusy = useRef(false);
  useEffect(() => {
    // What was made may show in the yard.
    if (wasBusy.current && !busy) void client.invalidateQueries(yardQuery);
    wasBusy.current = busy;
  }, [busy, client]);

  const running = open.find((j) => j.state === "running");
  if (!running) return null;
  const waiting = open.length - 1;
  return (
    <section
      aria-label="Work in the background"
      className="border-line text-soft flex items-center gap-3 border-b py-1.5 text-sm"
    >
      <span>
        {running.kind === "footfalls" ? "Looking for" : "Making"}{" "}
        {MAKES[running.kind] ?? running.kind} of {running.clip_name}
        {waiting > 0 ? `, ${waiting} more waiting` : ""}
      </span>
      <progress
        className="h-2 w-40 accent-[var(--clay)]"
        aria-label={`Making ${MAKES[running.kind] ?? running.kind}`}
        value={running.progress}
      />
      <span className="grow">{timeLeft(running)}</span>
      <Button plain onClick={() => cancel.mutate(running.id)}>
        Cancel
      </Button>
    </section>
  );
}

const isOpen = (job: Job) => job.state === "running" || job.state === "waiting";

function timeLeft(job: Job): string {
  if (typeof job.left_s !== "number") return "";
  return job.left_s < 90
    ? `${Math.max(1, Math.round(job.left_s))} s left`
    : `${Math.round(job.left_s / 60)} min left`;
}
