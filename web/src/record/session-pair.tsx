import { useState } from "react";
import { Link } from "react-router";

import type { Schemas } from "../api/client";
import { SaveTable } from "../ui/save-table";
import { Choice } from "../ui/choice";
import { inFull } from "../ui/dates";

/** Every session, and any two of them to be put side by side. */
export function SessionPair({ record }: { record: Schemas["Record"] }) {
  const { sessions, gait } = record;
  const [first, setFirst] = useState(sessions[0]?.id ?? null);
  const [second, setSecond] = useState(sessions.at(-1)?.id ?? null);
  const has = (id: number | null) => sessions.some((s) => s.id === id);
  const [a, b] = [has(first) ? first : sessions[0]?.id, has(second) ? second : sessions.at(-1)?.id];
  const way = `/beside?a=session:${a ?? 0}:${gait}&b=session:${b ?? 0}:${gait}`;
  return (
    <section className="mt-8" aria-label="Sessions">
      <div className="flex items-baseline gap-4">
        <h2 className="grow text-[1.3rem] font-medium">Sessions</h2>
        <SaveTable
          name={`${record.name}-sessions`}
          columns={["date", "note", "bouts", "strides", "own_score"]}
          rows={() => sessions.map((s) => [s.date, s.note, s.bouts, s.strides, s.score])}
        />
      </div>
      {sessions.length > 1 && (
        <div className="mt-1 flex flex-wrap items-end gap-3">
          {(
            [
              ["First side", a, setFirst],
              ["Second side", b, setSecond],
            ] as const
          ).map(([label, chosen, choose]) => (
            <Choice
              key={label}
              label={label}
              value={`${chosen ?? ""}`}
              onChange={(v) => choose(Number(v))}
              className="w-56"
            >
              {[...sessions].reverse().map((s) => (
                <option key={s.id} value={s.id}>
                  {[inFull(s.date), s.note].filter(Boolean).join(": ")}
                </option>
              ))}
            </Choice>
          ))}
          {a !== undefined && b !== undefined && a !== b && (
            <Link
              className="bg-ink text-sand hover:bg-clay inline-flex min-h-9 items-center rounded-[3px] px-3"
              to={way}
            >
              Put the chosen two side by side
            </Link>
          )}
        </div>
      )}
      <table className="mt-2 w-full text-[0.95rem]">
        <thead className="text-soft text-left text-sm">
          <tr className="border-ink border-b">
            <th className="font-normal">session</th>
            <th className="text-right font-normal">bouts</th>
            <th className="text-right font-normal">strides</th>
            <th className="pl-4 text-right font-normal">own score</th>
            <th className="pl-4 font-normal">both reins</th>
          </tr>
        </thead>
        <tbody>
          {[...sessions].reverse().map((s) => (
            <tr key={s.id} className="border-line h-9 border-t">
              <td>
                <Link className="text-clay underline underline-offset-3" to={`/sessions/${s.id}`}>
                  {inFull(s.date)}
                </Link>{" "}
                <span className="text-soft">{s.note}</span>
              </td>
              <td className="text-right font-mono text-[0.87rem]">{s.bouts}</td>
              <td className="text-right font-mono text-[0.87rem]">{s.strides}</td>
              <td className="pl-4 text-right font-mono text-[0.87rem]">{s.score ?? "–"}</td>
              <td className="pl-4">
                <Link
                  className="text-clay underline underline-offset-3"
                  to={`/beside?a=session:${s.id}:${gait}:left&b=session:${s.id}:${gait}:right`}
                >
                  left, right
                </Link>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
