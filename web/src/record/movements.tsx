import { Link } from "react-router";

import type { Schemas } from "../api/client";
import { SaveTable } from "../ui/save-table";
import { dayAndMonth } from "../ui/dates";

/** Movements met: how often, on which rein, and whether the gait holds in them. */
export function Movements({ record }: { record: Schemas["Record"] }) {
  if (record.exposures.length === 0) return null;
  return (
    <section aria-label="Movements">
      <div className="flex items-baseline gap-2">
        <h2 className="grow text-[1.3rem] font-medium">Movements</h2>
        <SaveTable
          name={`${record.name}-movements`}
          columns={["movement", "times", "left", "right", "last"]}
          rows={() => record.exposures.map((e) => [e.movement, e.times, e.left, e.right, e.last])}
        />
      </div>
      <ul className="mt-1">
        {record.exposures.map((e) => (
          <li key={e.movement} className="border-line border-b py-1.5">
            <p>
              <span className="font-medium">{e.movement}</span>{" "}
              <span className="text-soft">
                {e.times === 1 ? "met once" : `met ${e.times} times`}
                {e.left + e.right > 0 ? ` (left rein ${e.left}, right ${e.right})` : ""}, last on{" "}
                {dayAndMonth(e.last)}; the next is the {e.next_is}
              </span>
            </p>
            {e.holds.map((h) => (
              <p key={h.rein ?? ""} className="pl-4">
                {h.rein ? `${h.rein} rein: ` : ""}
                <span className={h.verdict === "gives way" ? "text-clay" : ""}>{h.says}</span>{" "}
                <Link
                  className="text-clay underline underline-offset-3"
                  to={`/beside?a=${h.sides[0]}&b=${h.sides[1]}`}
                >
                  beside straight
                </Link>
              </p>
            ))}
          </li>
        ))}
      </ul>
      {record.exposures.some((e) => e.holds.length > 0) && (
        <p className="text-soft mt-1 text-sm">
          Enough for the movement: tempo within 3 % of straight work of the same sessions, rhythm
          and air kept (project defaults). It is set in {record.gait}.
        </p>
      )}
    </section>
  );
}
