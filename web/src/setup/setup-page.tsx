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
      <Jobs />
    </main>
  );
}

export function gigabytes(bytes: number): string {
  return bytes < 1e9 ? `${(bytes / 1e6).toFixed(1)} MB` : `${(bytes / 1e9).toFixed(2)} GB`;
}
