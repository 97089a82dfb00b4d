import { useState } from "react";
import { Link } from "react-router";

import type { Schemas } from "../api/client";
import { plusMinus } from "../ui/plus-minus";
import { CoachOnly } from "../ui/me";
import { Drawing } from "../ui/drawing";
import { dayAndMonth } from "../ui/dates";
import { OwnMark } from "./own-mark";
import { TargetTempo } from "./target-tempo";
import { CurvePlot } from "./curve-plot";
import { TrendPlot } from "./trend-plot";

type Row = Schemas["CardRow"];

/** Place of the best among first, last, best and this. */
const BEST = 2;

/** The gait card: a row a figure, its sessions with their intervals, first, best and this. */
export function Card({ record }: { record: Schemas["Record"] }) {
  const [open, setOpen] = useState<string | null>(null);
  const coached = record.rows.some((r) => r.coach.some((m) => m !== null));
  return (
    <>
      <table className="mt-4 w-full">
        <caption className="sr-only">Gait card with 95 % intervals</caption>
        <thead className="text-soft text-left text-sm">
          <tr className="border-ink border-b">
            <th className="font-normal">figure</th>
            <th className="font-normal">sessions</th>
            <th className="text-right font-normal max-lg:hidden">first</th>
            <th className="text-right font-normal">last</th>
            <th className="text-right font-normal max-lg:hidden">best</th>
            <th className="text-right font-normal">this</th>
            <th className="pl-6 font-normal">course</th>
            <th className="text-right font-normal">mark</th>
            {coached && <th className="pl-2 text-right font-normal">yours</th>}
          </tr>
        </thead>
        <tbody>
          {record.rows.map((r) => (
            <CardLine
              key={r.metric}
              row={r}
              record={record}
              open={open === r.metric}
              coached={coached}
              onOpen={() => setOpen(open === r.metric ? null : r.metric)}
            />
          ))}
        </tbody>
      </table>
      {record.rows.some((r) => r.best_of > 0) && (
        <p className="text-soft mt-1 text-sm max-lg:hidden">
          The best is picked, and so by luck too: its figure is without that luck, as it is expected
          to have been given all sessions, and may lie inside the outermost dot.
        </p>
      )}
      {record.agreement && <p className="mt-1">{record.agreement}.</p>}
    </>
  );
}

type LineProps = {
  row: Row;
  record: Schemas["Record"];
  open: boolean;
  coached: boolean;
  onOpen: () => void;
};

function CardLine({ row, record, open, coached, onOpen }: LineProps) {
  const at = (k: number | null | undefined) => {
    const value = typeof k === "number" ? row.series[k] : undefined;
    return value ? plusMinus(value, 1, row.digits) : "–";
  };
  const shown = (n: number, k: number | null | undefined) =>
    n !== BEST ? at(k) : row.best_value ? plusMinus(row.best_value, 1, row.digits) : "–";
  const day = (k: number | null | undefined) => {
    const session = typeof k === "number" ? record.sessions[k] : undefined;
    return session ? dayAndMonth(session.date) : "";
  };
  const [mark, own] =
    typeof row.this === "number" ? [row.marks[row.this], row.coach[row.this]] : [];
  return (
    <>
      <tr className="border-line border-t align-middle">
        <th scope="row" className="max-w-56 py-1 text-left font-normal">
          {row.name}
          <span className="text-soft block text-sm">{row.unit}</span>
        </th>
        <td>
          <TrendPlot row={row} record={record} />
        </td>
        {[row.first, row.last, row.best, row.this].map((k, n) => (
          <td
            key={n}
            className={`pl-4 text-right whitespace-nowrap ${n % 2 === 0 ? "max-lg:hidden" : ""}`}
          >
            <span className="font-mono text-[0.87rem]">{shown(n, k)}</span>
            <span className="text-soft block text-sm">
              {day(k)}
              {n === BEST && row.best_of > 0 ? ` of ${row.best_of}` : ""}
            </span>
          </td>
        ))}
        <td className="max-w-64 pl-6 text-[0.95rem]">
          {row.trend_says ? (
            <span className={row.course === "worse" ? "text-clay" : ""}>
              {row.trend_says}
              {row.trend_ends ? `, ${row.trend_ends}` : ""}
            </span>
          ) : (
            <span className="text-soft">a trend needs 4 sessions</span>
          )}
        </td>
        <td className="text-right">
          <button
            type="button"
            aria-expanded={open}
            aria-label={`${row.name}: where this comes from`}
            onClick={onOpen}
            className="text-clay min-h-9 min-w-12 rounded-[3px] font-mono underline underline-offset-3"
          >
            {typeof mark === "number" ? mark.toFixed(1) : "open"}
          </button>
        </td>
        {coached && (
          <td className="pl-2 text-right font-mono">
            {typeof own === "number" ? own.toFixed(1) : <span className="text-soft">–</span>}
          </td>
        )}
      </tr>
      {open && (
        <tr>
          <td colSpan={9} className="bg-chalk px-3 py-2">
            <Source row={row} record={record} />
          </td>
        </tr>
      )}
    </>
  );
}

/** The curve of a mark, and the bouts the last figure came from. */
function Source({ row, record }: { row: Row; record: Schemas["Record"] }) {
  const last = typeof row.this === "number" ? row.series[row.this] : undefined;
  return (
    <div className="grid grid-cols-[auto_auto_1fr] gap-8 max-lg:grid-cols-1">
      <Drawing name={`${record.name}-${row.metric}`} className="self-start pb-6">
        <TrendPlot row={row} record={record} large />
      </Drawing>
      <div className="flex flex-col gap-2">
        {row.curve.length > 0 && (
          <figure>
            <Drawing name={`${record.name}-${row.metric}-curve`} className="pr-10">
              <CurvePlot row={row} value={last?.value ?? null} />
            </Drawing>
            <figcaption className="text-soft text-sm">
              mark 0–10 over {row.curve_over} (project default)
              {typeof row.target === "number" ? `, target ${row.target.toFixed(1)}` : ""}
            </figcaption>
          </figure>
        )}
        <CoachOnly>
          {row.metric === "tempo" && <TargetTempo record={record} usual={row.target ?? null} />}
          <OwnMark row={row} record={record} />
        </CoachOnly>
      </div>
      <div>
        <p className="text-soft text-sm">What it came from, this session</p>
        <ul>
          {row.from.map((f) => (
            <li key={`${f.clip} ${f.start_s}`}>
              <Link
                className="text-clay inline-flex min-h-7 items-baseline gap-3 underline underline-offset-3"
                to={`/clips/${f.clip}?at=${f.start_s}`}
              >
                {f.rein ? `${f.rein} rein, ` : ""}
                {f.start_s.toFixed(1)} s
              </Link>{" "}
              <span className="font-mono text-[0.87rem]">{plusMinus(f.value, 1, row.digits)}</span>
            </li>
          ))}
        </ul>
      </div>
    </div>
  );
}
