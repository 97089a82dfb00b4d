import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import { api, inWords, taken } from "../api/client";
import { Button } from "../ui/button";
import { Notice } from "../ui/notice";
import { Screens } from "../ui/screens";
import { DropZone } from "./drop-zone";
import { HorseRow } from "./horse-row";
import { NewHorse } from "./new-horse";
import { RemovedProvider } from "./removed";
import { Unsorted } from "./unsorted";
import { UploadsProvider } from "./uploads";
import { Work } from "./work";

/** The yard: who is here, what was found, what waits. */
export function YardPage() {
  const yard = useQuery({ queryKey: ["yard"], queryFn: () => taken(api.GET("/api/yard")) });
  const [adding, setAdding] = useState(false);
  const [opened, setOpened] = useState<number | null>(null);
  const horses = yard.data?.horses ?? [];

  return (
    <UploadsProvider>
      <RemovedProvider>
        <DropZone>
          <main className="mx-auto max-w-[1240px] px-6 pt-4 pb-24">
            <header className="border-ink flex items-end gap-3 border-b-2 pb-3">
              <div className="grow">
                <Screens />
                <h1 className="mt-1 text-[1.75rem] leading-tight font-medium">
                  {yard.data?.headline ?? (yard.isError ? "The yard cannot be read." : "Opening …")}
                </h1>
              </div>
              <Button onClick={() => setAdding(true)}>Add a horse</Button>
            </header>
            {yard.isError && <Notice text={inWords(yard.error)} />}
            <Work />
            <Unsorted clips={yard.data?.unsorted ?? []} horses={horses} />
            {(adding || (yard.data && horses.length === 0)) && (
              <NewHorse
                onDone={(id) => {
                  setAdding(false);
                  if (id !== null) setOpened(id);
                }}
              />
            )}
            <ul>
              {horses.map((horse) => (
                <HorseRow key={horse.id} horse={horse} openAtFirst={horse.id === opened} />
              ))}
            </ul>
            {horses.length > 0 && <Legend />}
          </main>
        </DropZone>
      </RemovedProvider>
    </UploadsProvider>
  );
}

function Legend() {
  return (
    <p className="text-soft mt-6 max-w-[68ch] text-sm">
      Each wheel is one turn of the horse’s stride, first hind at twelve: the arcs are stances, the
      shaded sector is air. A dashed wheel waits to be timed. Footage may be dropped anywhere on
      this page. Umlauf times footfalls; it does not diagnose lameness. Uneven steps that stay
      belong before a vet.
    </p>
  );
}
