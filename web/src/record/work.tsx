import { Link } from "react-router";

import type { Schemas } from "../api/client";
import { SaveTable } from "../ui/save-table";
import { dayAndMonth } from "../ui/dates";

const SHOWN = 12;
const W = 220;

/** The quicker, the darker. */
function shade(name: string): string {
  if (name === "Walk" || name === "Flat walk") return "var(--chalk)";
  if (name === "Trot") return "var(--line)";
  if (name === "Canter" || name === "Gallop") return "var(--soft)";
  return "var(--air)";
}

/** Work as it was filmed, session by session: time in each gait and the longest spell. */
export function WorkLog({ record }: { record: Schemas["Record"] }) {
  if (record.work.length === 0) return null;
  const lately = record.work.slice(-SHOWN).reverse();
  const total = (w: Schemas["Worked"]) => w.gaits.reduce((sum, g) => sum + g.seconds, 0);
  const most = Math.max(...lately.map(total));
  const names = [...new Set(record.work.flatMap((w) => w.gaits.map((g) => g.name)))];
  return (
    <section aria-label="Work and rest">
      <div className="flex items-baseline gap-2">
        <h2 className="grow text-[1.3rem] font-medium">Work and rest, as filmed</h2>
        <SaveTable
          name={`${record.name}-work`}
          columns={["date", "gait", "seconds", "strides", "longest_spell_s"]}
          rows={() =>
            record.work.flatMap((w) =>
              w.gaits.map((g) => [w.date, g.name, g.seconds, g.strides, w.longest_spell_s]),
            )
          }
        />
      </div>
      <p className="text-soft text-sm">
        Only what was filmed and timed is counted; a spell ends with a walk. Over six minutes asks
        for a walk break (common practice).
      </p>
      <table className="mt-1 w-full text-[0.95rem]">
        <thead className="text-soft text-left text-sm">
          <tr className="border-ink border-b">
            <th className="font-normal">session</th>
            <th className="font-normal">
              {names.map((n) => (
                <span key={n} className="mr-3 inline-flex items-center gap-1">
                  <svg width={11} height={11} aria-hidden>
                    <rect width={11} height={11} fill={shade(n)} stroke="var(--ink)" />
                  </svg>
                  {n.toLowerCase()}
                </span>
              ))}
            </th>
            <th className="text-right font-normal">strides</th>
            <th className="text-right font-normal">longest spell</th>
          </tr>
        </thead>
        <tbody>
          {lately.map((w) => (
            <tr key={w.session} className="border-line border-t">
              <th scope="row" className="py-0.5 text-left font-normal">
                <Link
                  className="text-clay underline underline-offset-3"
                  to={`/sessions/${w.session}`}
                >
                  {dayAndMonth(w.date)}
                </Link>
              </th>
              <td>
                <Bar worked={w} most={most} />
              </td>
              <td className="text-right font-mono text-[0.85rem]">
                {w.gaits.reduce((sum, g) => sum + g.strides, 0)}
              </td>
              <td
                className={`text-right font-mono text-[0.85rem] ${w.too_long ? "text-clay" : ""}`}
              >
                {minutes(w.longest_spell_s)}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

type BarProps = { worked: Schemas["Worked"]; most: number };

function Bar({ worked, most }: BarProps) {
  const says = worked.gaits.map((g) => `${g.name.toLowerCase()} ${minutes(g.seconds)}`).join(", ");
  const wide = (seconds: number) => (seconds / Math.max(most, 1)) * (W - 50);
  const starts = worked.gaits.map((_, k) =>
    worked.gaits.slice(0, k).reduce((sum, g) => sum + wide(g.seconds), 0),
  );
  const total = worked.gaits.reduce((sum, g) => sum + g.seconds, 0);
  return (
    <svg width={W} height={18} role="img" aria-label={says}>
      <title>{says}</title>
      {worked.gaits.map((g, k) => (
        <rect
          key={g.name}
          x={(starts[k] ?? 0) + 0.5}
          y={3}
          width={Math.max(wide(g.seconds), 1)}
          height={12}
          fill={shade(g.name)}
          stroke="var(--ink)"
          strokeWidth={0.6}
        />
      ))}
      <text
        x={wide(total) + 6}
        y={14}
        fontSize={12}
        fill="var(--soft)"
        fontFamily="var(--font-mono)"
      >
        {minutes(total)}
      </text>
    </svg>
  );
}

/** `1:05`: minutes and seconds. */
function minutes(seconds: number): string {
  const whole = Math.round(seconds);
  return `${Math.floor(whole / 60)}:${String(whole % 60).padStart(2, "0")}`;
}
