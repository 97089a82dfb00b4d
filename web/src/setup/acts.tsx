import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import { inWords } from "../api/client";
import { actsQuery } from "../api/queries";
import { Button } from "../ui/button";
import { Notice } from "../ui/notice";

const MOMENT = new Intl.DateTimeFormat("en-GB", {
  day: "numeric",
  month: "short",
  hour: "2-digit",
  minute: "2-digit",
});

/** Who changed what, newest first. */
export function Acts() {
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button plain className="mt-3 -ml-3" aria-expanded={open} onClick={() => setOpen(!open)}>
        Who changed what
      </Button>
      {open && <Lines />}
    </>
  );
}

function Lines() {
  const acts = useQuery(actsQuery);
  if (acts.isError) return <Notice text={inWords(acts.error)} />;
  const all = acts.data?.acts ?? [];
  return (
    <ol aria-label="Who changed what" className="max-h-80 overflow-auto text-[0.95rem]">
      {all.map((a, k) => (
        <li key={`${a.at_ms} ${k}`} className="border-line flex gap-4 border-t py-0.5">
          <time className="text-soft w-36 shrink-0">{MOMENT.format(a.at_ms)}</time>
          <span>
            <b className="font-medium">{a.who}</b> {a.did}
          </span>
        </li>
      ))}
      {acts.data && all.length === 0 && <li className="text-soft">Nothing yet.</li>}
    </ol>
  );
}
