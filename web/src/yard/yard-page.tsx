import { useQuery } from "@tanstack/react-query";
import { useDeferredValue, useState } from "react";
import { Link } from "react-router";

import { inWords, type Schemas } from "../api/client";
import { yardQuery } from "../api/queries";
import { Button } from "../ui/button";
import { Field } from "../ui/field";
import { Troubles } from "../ui/troubles";
import { Notice } from "../ui/notice";
import { Screens } from "../ui/screens";
import { DropZone } from "./drop-zone";
import { HorseRow } from "./horse-row";
import { NewHorse } from "./new-horse";
import { RemovedProvider } from "../ui/removed";
import { Unsorted } from "./unsorted";
import { UploadsProvider } from "./uploads";
import { Work } from "./work";

/** From this many horses on one of them is looked for by name. */
const MANY = 8;
const NONE: Schemas["HorseLine"][] = [];

/** The yard: who is here, what was found, what waits. */
export function YardPage() {
  const yard = useQuery(yardQuery);
  const [adding, setAdding] = useState(false);
  const [opened, setOpened] = useState<number | null>(null);
  const [sought, setSought] = useState("");
  const horses = yard.data?.horses ?? [];
  const shown = horses.filter((h) => h.name.toLowerCase().includes(sought.trim().toLowerCase()));
  // The first screenful stands at once; the rest of a large yard follows when there is time.
  const all = useDeferredValue(shown, NONE);
  const drawn = all.length === 0 ? shown.slice(0, MANY) : all;

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
              <Button className="shrink-0" onClick={() => setAdding(true)}>
                Add a horse
              </Button>
            </header>
            {yard.isError && <Notice text={inWords(yard.error)} />}
            <Troubles />
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
            {yard.data && horses.length === 0 && <FirstSteps />}
            {horses.length > MANY && (
              <div className="border-line border-b py-2">
                <Field
                  label="Find a horse"
                  type="search"
                  value={sought}
                  onChange={(e) => setSought(e.target.value)}
                  className="w-64"
                />
              </div>
            )}
            <ul>
              {drawn.map((horse) => (
                <HorseRow key={horse.id} horse={horse} isNew={horse.id === opened} />
              ))}
            </ul>
            {horses.length > 0 && <Legend />}
          </main>
        </DropZone>
      </RemovedProvider>
    </UploadsProvider>
  );
}

/** An empty yard teaches the way. */
function FirstSteps() {
  const steps = [
    "Name the horse. Its height at the withers makes figures comparable; it can wait.",
    "Drop footage on this page: ten strides from the side are enough for a first reading.",
    "Open the clip, step with A and D, and tap a key as each hoof lands. The wheel turns up by itself.",
  ];
  return (
    <section className="max-w-[60ch] py-6">
      <h2 className="text-lg font-medium">Three steps to the first reading</h2>
      <ol className="mt-1 list-decimal pl-5">
        {steps.map((step) => (
          <li key={step} className="py-0.5">
            {step}
          </li>
        ))}
      </ol>
      <p className="mt-3">
        <Link className="text-clay underline underline-offset-3" to="/filming">
          Where to stand, and which frame rate is enough
        </Link>
      </p>
    </section>
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
