import { Link } from "react-router";

import type { Schemas } from "../api/client";
import { inFull } from "../ui/dates";

/** First times, and pauses in the work. */
export function Milestones({ record }: { record: Schemas["Record"] }) {
  const events = [
    ...record.milestones.map((m) => ({ date: m.date, says: m.says, session: m.session })),
    ...record.lay_offs.map((l) => ({
      date: l.to,
      says: `Back after ${l.days} days off.`,
      session: null,
    })),
  ].sort((a, b) => a.date.localeCompare(b.date));
  if (events.length === 0) return null;
  return (
    <section aria-label="Milestones">
      <h2 className="text-[1.3rem] font-medium">Milestones</h2>
      <ul className="mt-1">
        {events.map((e) => (
          <li key={`${e.date}${e.says}`} className="border-line flex gap-3 border-b py-1">
            <span className="text-soft w-40 shrink-0">{inFull(e.date)}</span>
            {e.session === null ? (
              <span>{e.says}</span>
            ) : (
              <Link
                className="text-clay underline underline-offset-3"
                to={`/sessions/${e.session}`}
              >
                {e.says}
              </Link>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}
