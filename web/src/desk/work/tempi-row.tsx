import type { Schemas } from "../../api/client";
import { verdictWords } from "./change-table";
import { Hint } from "../../ui/hint";

type Event = Schemas["Event"];
type Props = {
  tempi: Extract<Event, { kind: "tempi" }>;
  changes: readonly Extract<Event, { kind: "flying_change" }>[];
  jump: (seconds: number) => void;
};

/** A line of tempi as a row of strides, with the faults where they happened. */
export function TempiRow({ tempi, changes, jump }: Props) {
  const first = changes.findIndex((c) => Math.abs(c.time_s - tempi.time_s) < 1e-6);
  const own = first < 0 ? [] : changes.slice(first, first + tempi.changes);
  const every = tempi.planned_every === 1 ? "stride" : `${tempi.planned_every} strides`;
  const planned = tempi.planned_count ? ` of ${tempi.planned_count}` : "";
  const other = (change: number) =>
    tempi.faults.filter((f) => f.change === change).map((f) => f.what.replaceAll("_", " "));
  return (
    <section className="py-2">
      <h3 className={`font-medium ${tempi.faults.length > 0 ? "text-clay" : ""}`}>
        Changes every {every}: {tempi.changes}
        {planned} ridden, {tempi.clean} clean
      </h3>
      <ol className="mt-1 flex flex-wrap items-center gap-y-1">
        {own.map((change, k) => {
          const gap = k > 0 ? tempi.gaps[k - 1] : undefined;
          const words = other(k + 1);
          const wrong = change.verdict !== "clean" || words.length > 0;
          return (
            <li key={change.time_s} className="flex items-center">
              {gap !== undefined && <Strides n={gap} wanted={tempi.planned_every} />}
              <Hint says={verdictWords(change)}>
                <button
                  type="button"
                  onClick={() => jump(change.time_s)}
                  className={`hover:bg-dune min-h-9 min-w-9 rounded-[3px] border px-1.5 text-sm ${wrong ? "border-clay text-clay border-2" : "border-ink"}`}
                >
                  {k + 1}
                  {wrong ? ` ${words.join(", ") || verdictWords(change)}` : " ✓"}
                </button>
              </Hint>
            </li>
          );
        })}
      </ol>
    </section>
  );
}

/** Strides between two changes: a tick each. */
function Strides({ n, wanted }: { n: number; wanted: number }) {
  const right = n === wanted;
  return (
    <span
      className={`mx-1 flex items-center gap-[3px] ${right ? "text-soft" : "text-clay"}`}
      aria-label={`${n} strides`}
    >
      {Array.from({ length: Math.min(n, 12) }, (_, k) => (
        <span key={k} aria-hidden className="h-3 w-[2px] bg-current" />
      ))}
      <span className="ml-0.5 font-mono text-sm">{n}</span>
    </span>
  );
}
