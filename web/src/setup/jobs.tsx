import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Link } from "react-router";

import { api, inWords, taken } from "../api/client";
import { jobsQuery } from "../api/queries";
import { Button } from "../ui/button";
import { Notice } from "../ui/notice";

/** The latest work in the background. */
export function Jobs() {
  const client = useQueryClient();
  const jobs = useQuery({ ...jobsQuery, refetchInterval: 2000 });
  const steer = useMutation({
    mutationFn: ({ job, again }: { job: number; again: boolean }) => {
      const params = { path: { job } };
      return again
        ? taken(api.POST("/api/jobs/{job}/retry", { params }))
        : taken(api.POST("/api/jobs/{job}/cancel", { params }));
    },
    onSettled: () => client.invalidateQueries(jobsQuery),
  });
  const list = jobs.data?.slice(0, 60) ?? [];
  return (
    <section className="py-4">
      <h2 className="text-[1.3rem] font-medium">Work in the background</h2>
      {list.length === 0 && <p className="text-soft text-sm">Nothing was made yet.</p>}
      <ul>
        {list.map((job) => (
          <li key={job.id} className="flex min-h-9 items-center gap-3">
            <span className="text-soft w-20">{job.kind}</span>
            <Link className="text-clay w-56 truncate underline" to={`/clips/${job.clip}`}>
              {job.clip_name}
            </Link>
            <span className="w-32">
              {job.state === "running" ? `${Math.round(job.progress * 100)} %` : job.state}
            </span>
            <span className="text-soft grow text-sm">{job.says}</span>
            {(job.state === "failed" || job.state === "cancelled") && (
              <Button plain onClick={() => steer.mutate({ job: job.id, again: true })}>
                Try again
              </Button>
            )}
            {(job.state === "waiting" || job.state === "running") && (
              <Button plain onClick={() => steer.mutate({ job: job.id, again: false })}>
                Cancel
              </Button>
            )}
          </li>
        ))}
      </ul>
      {steer.isError && <Notice text={inWords(steer.error)} />}
    </section>
  );
}
