import { useState } from "react";
import { Link } from "react-router";

import type { Schemas } from "../api/client";
import { inFull } from "../ui/dates";
import { DifferenceTable } from "../ui/difference-table";

/** This session against the last and the first one under like conditions. */
export function SinceThen({ record }: { record: Schemas["Record"] }) {
  const [open, setOpen] = useState(false);
  const [last] = record.since;
  const now = record.sessions.at(-1);
  if (!last || !now) return null;
  return (
    <section aria-label="This time against earlier" className="mt-3">
      {record.since.map((s) => (
        <p key={s.what}>
          <span className="text-soft">
            {s.what === "last" ? "Against the last time" : "Against the first time"}
            {s.differs.length === 0 ? ", like conditions" : ` (${s.differs.join("; ")})`}:
          </span>{" "}
          {s.headline}{" "}
          <Link
            className="text-clay underline underline-offset-3"
            to={`/beside?a=${s.sides[0]}&b=${s.sides[1]}`}
          >
            side by side
          </Link>
        </p>
      ))}
      <button
        type="button"
        aria-expanded={open}
        onClick={() => setOpen(!open)}
        className="text-clay min-h-8 underline underline-offset-3"
      >
        {open ? "Close the figures" : `Every figure against ${inFull(last.date)}`}
      </button>
      {open && (
        <DifferenceTable
          rows={last.rows}
          first={inFull(last.date)}
          second={inFull(now.date)}
          name={`${record.name}-since-${last.date}`}
        />
      )}
    </section>
  );
}
