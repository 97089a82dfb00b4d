import { useMutation, useQueryClient } from "@tanstack/react-query";

import { api, inWords, type Schemas, taken } from "../api/client";
import { jobsQuery, spaceQuery, yardQuery } from "../api/queries";
import { Button } from "../ui/button";
import { Notice } from "../ui/notice";
import { restore } from "../ui/removed";
import { gigabytes } from "./gigabytes";

/** What was removed: to be had back, or gone for good. */
export function Bin({ space }: { space: Schemas["Space"] }) {
  const client = useQueryClient();
  const refresh = () =>
    Promise.all(
      [spaceQuery, yardQuery, jobsQuery].map(({ queryKey }) =>
        client.invalidateQueries({ queryKey: [...queryKey] }),
      ),
    );
  const back = useMutation({ mutationFn: restore, onSuccess: refresh });
  const empty = useMutation({
    mutationFn: () => taken(api.POST("/api/space/empty")),
    onSuccess: refresh,
  });
  const error = back.error ?? empty.error;
  return (
    <section className="border-line border-b py-4">
      <h2 className="text-[1.3rem] font-medium">Bin</h2>
      {space.bin.length === 0 ? (
        <p className="text-soft text-sm">Nothing is in the bin.</p>
      ) : (
        <>
          <p className="text-soft text-sm">
            What was removed can be had back. Emptying the bin frees {gigabytes(space.removed)} and
            cannot be undone.
          </p>
          <ul className="mt-2">
            {space.bin.map((thing) => (
              <li key={`${thing.kind}${thing.id}`} className="flex items-center gap-3">
                <span className="text-soft w-20">{thing.kind}</span>
                <span className="grow">{thing.name}</span>
                <Button plain onClick={() => back.mutate(thing)}>
                  Bring back
                </Button>
              </li>
            ))}
          </ul>
          <Button
            className="mt-2"
            disabled={empty.isPending}
            onClick={() => {
              if (window.confirm("Remove for good what is in the bin, with its footage?")) {
                empty.mutate();
              }
            }}
          >
            Empty the bin
          </Button>
        </>
      )}
      {error && <Notice text={inWords(error)} />}
    </section>
  );
}
