import { scaleLinear } from "d3-scale";

import type { Schemas } from "../api/client";
import { inFull } from "../ui/dates";

type Props = {
  row: Schemas["CardRow"];
  record: Schemas["Record"];
  /** With its scale written beside it. */
  large?: boolean;
};

const EDGE = 8;

/** Sessions from left to right by their days, each with its interval; the robust trend through
 * them, pauses hatched. */
export function TrendPlot({ row, record, large = false }: Props) {
  const { W, H } = large ? { W: 460, H: 130 } : { W: 250, H: 58 };
  const points = row.series.flatMap((e, k) => {
    const session = record.sessions[k];
    return e && session ? [{ e, session }] : [];
  });
  if (points.length === 0) return null;
  const days = record.sessions.map((s) => s.day);
  const [from, to] = [Math.min(...days), Math.max(...days)];
  const left = large ? 46 : EDGE;
  const x = scaleLinear([from, Math.max(to, from + 1)], [left, W - EDGE]);
  const values = points.map((p) => p.e.value);
  const mean = values.reduce((sum, v) => sum + v, 0) / values.length;
  const widths = points
    .map(({ e }) => ((e.ci95?.[1] ?? e.value) - (e.ci95?.[0] ?? e.value)) / 2)
    .sort((a, b) => a - b);
  // Neither small scatter nor one session known badly may make the plot: it shows the values with
  // a usual interval about them, and at least six per cent of the figure.
  const half = Math.max(
    Math.max(...values.map((v) => Math.abs(v - mean))) + 1.3 * (widths[widths.length >> 1] ?? 0),
    Math.abs(mean) * 0.03,
    0.02,
  );
  const y = scaleLinear([mean - half, mean + half], [H - 5, 5]).clamp(true);
  const middle =
    points.map((p) => p.e.value).sort((a, b) => a - b)[Math.floor(points.length / 2)] ?? mean;
  const centre = points.map((p) => p.session.day)[Math.floor(points.length / 2)] ?? from;
  const line = (day: number) => middle + ((row.trend?.[0] ?? 0) * (day - centre)) / 30;
  const told = row.course === "better" || row.course === "worse" || row.course === "changes";
  const pauses = record.lay_offs.flatMap((l) => {
    const before = record.sessions.findLast((s) => s.date <= l.from);
    const after = record.sessions.find((s) => s.date >= l.to);
    return before && after ? [{ from: before.day, to: after.day, key: l.from }] : [];
  });
  return (
    <svg
      width={W}
      height={H}
      role="img"
      aria-label={`${row.name} over ${points.length} sessions. ${row.trend_says ?? ""}`}
    >
      {pauses.map((p) => (
        <rect
          key={p.key}
          x={x(p.from) + 5}
          y={2}
          width={Math.max(x(p.to) - x(p.from) - 10, 2)}
          height={H - 4}
          fill="var(--air)"
        />
      ))}
      {typeof row.target === "number" && Math.abs(row.target - mean) < half && (
        <line
          x1={0}
          x2={W}
          y1={y(row.target)}
          y2={y(row.target)}
          stroke="var(--line)"
          strokeDasharray="2 4"
        />
      )}
      {row.trend && (
        <line
          x1={x(from)}
          x2={x(to)}
          y1={y(line(from))}
          y2={y(line(to))}
          stroke={told ? "var(--clay)" : "var(--line)"}
          strokeWidth={told ? 2 : 1.2}
        />
      )}
      {large &&
        y.ticks(4).map((v) => (
          <text key={v} x={2} y={y(v) + 4} fontSize={11} fill="var(--soft)">
            {v.toFixed(row.digits)}
          </text>
        ))}
      {points.map(({ e, session }) => (
        <g key={session.id}>
          <title>{`${inFull(session.date)}: ${e.value.toFixed(row.digits)} ${row.unit}, ${session.bouts} bouts`}</title>
          {e.ci95 && (
            <line
              x1={x(session.day)}
              x2={x(session.day)}
              y1={y(e.ci95[0] ?? e.value)}
              y2={y(e.ci95[1] ?? e.value)}
              stroke="var(--soft)"
              strokeWidth={1.2}
            />
          )}
          <circle cx={x(session.day)} cy={y(e.value)} r={2.8} fill="var(--ink)" />
        </g>
      ))}
    </svg>
  );
}
