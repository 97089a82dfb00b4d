import { useQuery } from "@tanstack/react-query";

import { api, taken } from "../api/client";
import { Screens } from "../ui/screens";
import { Bin } from "./bin";
import { Jobs } from "./jobs";
import { WatchedFolder } from "./watched-folder";

/** Choices for the whole yard, disk space, the bin, work in the background. */
export function SetupPage() {
  const space = useQuery({ queryKey: ["space"], queryFn: () => taken(api.GET("/api/space")) });
  const setup = useQuery({ queryKey: ["setup"], queryFn: () => taken(api.GET("/api/setup")) });
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
      {setup.data && <WatchedFolder folder={setup.data.watched_folder ?? ""} />}
      {space.data && <Bin space={space.data} />}
      <TakeAlong />
      <Jobs />
    </main>
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
      <p className="text-soft text-[0.95rem]">
        It goes back into an empty folder with{" "}
        <code className="font-mono text-[0.87rem]">
          umlauf restore yard.umlauf.zip --data FOLDER
        </code>
        .
      </p>
    </section>
  );
}

export function gigabytes(bytes: number): string {
  return bytes < 1e9 ? `${(bytes / 1e6).toFixed(1)} MB` : `${(bytes / 1e9).toFixed(2)} GB`;
}
