import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";

import { api, taken } from "../api/client";
import { handQuery, setupQuery, spaceQuery } from "../api/queries";
import { Button } from "../ui/button";
import { Troubles } from "../ui/troubles";
import { Screens } from "../ui/screens";
import { Backups } from "./backups";
import { Bin } from "./bin";
import { Finds } from "./finds";
import { gigabytes } from "./gigabytes";
import { BringBack } from "./bring-back";
import { Jobs } from "./jobs";
import { OneHorse } from "./one-horse";
import { People } from "./people";
import { WatchedFolder } from "./watched-folder";

/** Choices for the whole yard, disk space, the bin, work in the background. */
export function SetupPage() {
  const space = useQuery(spaceQuery);
  const setup = useQuery(setupQuery);
  return (
    <main className="mx-auto max-w-[980px] px-6 pt-4 pb-16">
      <header className="border-ink border-b-2 pb-3">
        <Screens />
        <h1 className="mt-1 text-[1.75rem] leading-tight font-medium">
          {space.data
            ? `The yard’s footage takes ${gigabytes(space.data.footage)} on this machine.`
            : "Opening …"}
        </h1>
      </header>
      <Troubles />
      <People />
      <Backups />
      <OneHorse />
      {setup.data && <WatchedFolder folder={setup.data.watched_folder ?? ""} />}
      {setup.data && <Finds setup={setup.data} />}
      {space.data && <Bin space={space.data} />}
      <Hand />
      <TakeAlong />
      <Jobs />
    </main>
  );
}

/** The coach's own scatter, which widens every interval, and to forget it. */
function Hand() {
  const client = useQueryClient();
  const hand = useQuery(handQuery);
  const forget = useMutation({
    mutationFn: () => taken(api.DELETE("/api/hand")),
    onSuccess: (data) => client.setQueryData(handQuery.queryKey, data),
  });
  const scatter = hand.data?.scatter_s;
  return (
    <section className="mt-6" aria-label="Your own hand">
      <h2 className="text-[1.3rem] font-medium">Your own hand</h2>
      {typeof scatter === "number" ? (
        <p>
          Footfalls timed twice lie {(scatter * 1000).toFixed(1)} ms apart (standard deviation of
          one mark); every interval counts it in.{" "}
          <Button plain disabled={forget.isPending} onClick={() => forget.mutate()}>
            Forget it
          </Button>
        </p>
      ) : (
        <p className="text-soft">
          Not measured: errors are those of the frames. On the Timing desk a bout can be timed
          again, which tells how far your marks scatter.
        </p>
      )}
    </section>
  );
}

/** Everything in one file, and how it comes back. */
function TakeAlong() {
  return (
    <section className="mt-6" aria-label="Take the yard along">
      <h2 className="text-[1.3rem] font-medium">Take the yard along</h2>
      <p>
        Everything you have said and marked, with the footage, as one ZIP of JSON, CSV and films
        that a person with a spreadsheet can read too.{" "}
        <a className="text-clay underline underline-offset-3" href="/api/export" download>
          Download the yard
        </a>
      </p>
      <BringBack />
    </section>
  );
}
