import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";

import { api, done, inWords } from "../api/client";
import { linksQuery } from "../api/queries";
import { Button } from "../ui/button";
import { inFull } from "../ui/dates";
import { Notice } from "../ui/notice";

/** Links that have not ended, each to be ended now. */
export function Links() {
  const client = useQueryClient();
  const links = useQuery(linksQuery);
  const end = useMutation({
    mutationFn: (link: number) =>
      done(api.DELETE("/api/links/{link}", { params: { path: { link } } })),
    onSettled: () => client.invalidateQueries(linksQuery),
  });
  const all = links.data?.links ?? [];
  if (all.length === 0) return null;
  return (
    <>
      <h3 className="mt-4 text-[1.1rem] font-medium">Links that are open</h3>
      <ul>
        {all.map((l) => (
          <li key={l.id} className="border-line flex flex-wrap items-baseline gap-x-4 border-t">
            <span className="grow">{l.shows}</span>
            <span className="text-soft text-sm">
              until {inFull(new Date(l.ends_ms).toISOString().slice(0, 10))}, by {l.who}
            </span>
            <Button plain aria-label={`End: ${l.shows}`} onClick={() => end.mutate(l.id)}>
              End it now
            </Button>
          </li>
        ))}
      </ul>
      {end.isError && <Notice text={inWords(end.error)} onClose={() => end.reset()} />}
    </>
  );
}
