import { Dialog } from "radix-ui";
import { useState } from "react";

import type { Schemas } from "../api/client";
import { HorseForm } from "./horse-form";

const DEGREES = ["first", "second", "third", "fourth"];

/** What the coach says of the horse, in a line or two, and the way to change it. */
export function HorseCard({ record }: { record: Schemas["Record"] }) {
  const [open, setOpen] = useState(false);
  const c = record.card;
  const facts = [
    c.withers_m ? `${c.withers_m.toFixed(2)} m at the withers` : "height not given",
    c.born ? `born ${c.born}` : "",
    c.degree ? `${DEGREES[c.degree - 1] ?? ""} degree of collection` : "",
    c.gaited
      ? `gaited${c.intended_gait ? `, meant to go ${c.intended_gait.replace("-", " ")}` : ""}`
      : "",
    c.weak_side ? `weaker side ${c.weak_side}` : "",
  ].filter(Boolean);
  return (
    <section aria-label="Horse" className="mt-3 flex gap-6">
      <div className="grow">
        <p>{facts.join(" · ")}</p>
        {c.goals && (
          <p>
            <span className="text-soft">Goals:</span> {c.goals}
          </p>
        )}
        {c.leads && (
          <p>
            <span className="text-soft">Leads:</span> {c.leads}
          </p>
        )}
        {c.history && (
          <p>
            <span className="text-soft">Before:</span> {c.history}
          </p>
        )}
        {c.cautions && <p className="border-clay mt-1 border-l-3 pl-2">{c.cautions}</p>}
      </div>
      <Dialog.Root open={open} onOpenChange={setOpen}>
        <Dialog.Trigger className="text-clay min-h-9 shrink-0 self-start px-1 underline underline-offset-3">
          Change the card
        </Dialog.Trigger>
        <Dialog.Portal>
          <Dialog.Overlay className="fixed inset-0 bg-black/40" />
          <Dialog.Content
            aria-describedby={undefined}
            className="bg-sand text-ink fixed top-1/2 left-1/2 max-h-[92vh] w-[min(46rem,94vw)] -translate-x-1/2 -translate-y-1/2 overflow-y-auto rounded-[4px] p-6 shadow-xl"
          >
            <Dialog.Title className="text-xl font-medium">{record.name}</Dialog.Title>
            <HorseForm record={record} onDone={() => setOpen(false)} />
          </Dialog.Content>
        </Dialog.Portal>
      </Dialog.Root>
    </section>
  );
}
