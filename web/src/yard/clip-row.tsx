import { useMutation, useQueryClient } from "@tanstack/react-query";
import { Link } from "react-router";

import { api, done, type Schemas } from "../api/client";
import { yardQuery } from "../api/queries";
import { Button } from "../ui/button";
import { inFull } from "../ui/dates";
import { CoachOnly } from "../ui/me";
import { useRemove } from "../ui/removed";

type Props = {
  clip: Schemas["ClipLine"];
  horse: number;
  session: Schemas["SessionLine"];
};

/** A clip of a session; one filmed on another day is offered its own session. */
export function ClipRow({ clip, horse, session }: Props) {
  const client = useQueryClient();
  const remove = useRemove();
  const move = useMutation({
    mutationFn: (date: string) =>
      done(
        api.PUT("/api/clips/{clip}/place", {
          params: { path: { clip: clip.id } },
          body: { horse, date },
        }),
      ),
    onSuccess: () => client.invalidateQueries(yardQuery),
  });
  const filmed = clip.recorded_on;
  return (
    <li>
      <div className="flex items-center gap-2">
        <Link
          to={`/clips/${clip.id}`}
          className="hover:bg-dune flex min-h-9 min-w-0 grow items-baseline gap-4 rounded-[3px] px-2 py-1"
        >
          <span className="w-44 truncate">{clip.name}</span>
          <span className="text-soft w-16 text-right text-sm">{clip.length_s.toFixed(1)} s</span>
          <span className="text-soft w-28 text-right text-sm">{clip.footfalls} footfalls</span>
          <span className="grow">
            {clip.found > 0 && `${clip.found} found by themselves, to be taken. `}
            {clip.found === 0 || clip.label ? clip.headline : ""}
          </span>
        </Link>
        <CoachOnly>
          <Button
            plain
            aria-label={`Remove ${clip.name}`}
            onClick={() => remove({ kind: "clip", id: clip.id, name: clip.name })}
          >
            Remove
          </Button>
        </CoachOnly>
      </div>
      {clip.remark && <p className="border-clay ml-2 border-l-3 pl-2 text-sm">{clip.remark}</p>}
      {filmed && filmed !== session.date && (
        <p className="text-soft ml-2 flex items-center gap-2 text-sm">
          The camera notes {inFull(filmed)}.
          <Button plain disabled={move.isPending} onClick={() => move.mutate(filmed)}>
            Move to the session of that day
          </Button>
        </p>
      )}
    </li>
  );
}
