import { scaleLinear } from "d3-scale";

import type { Schemas } from "../api/client";

const W = 220;
const H = 96;

/** The curve from a figure to its mark, with the last figure on it. */
export function CurvePlot({ row, value }: { row: Schemas["CardRow"]; value: number | null }) {
  const xs = row.curve.map((p) => p[0] ?? 0);
  const [from, to] = [Math.min(...xs), Math.max(...xs)];
  const x = scaleLinear([from, to > from ? to : from + 1], [8, W - 8]).clamp(true);
  const y = scaleLinear([0, 10], [H - 14, 10]);
  const mark = typeof row.this === "number" ? row.marks[row.this] : null;
  const path = row.curve
    .map((p, k) => `${k === 0 ? "M" : "L"}${x(p[0] ?? 0)} ${y(p[1] ?? 0)}`)
    .join("");
  const away =
    value === null
      ? null
      : row.curve_over === "% from the target" && typeof row.target === "number"
        ? 100 * Math.abs(value / row.target - 1)
        : row.curve_over?.endsWith("from the target") && typeof row.target === "number"
          ? Math.abs(value - row.target)
          : value;
  return (
    <svg
      width={W}
      height={H}
      role="img"
      aria-label={`Curve of the mark, ${from} to ${to} ${row.curve_over ?? ""}`}
    >
      <line x1={8} x2={W - 8} y1={y(0)} y2={y(0)} stroke="var(--line)" />
      <line x1={8} x2={W - 8} y1={y(10)} y2={y(10)} stroke="var(--line)" />
      <path d={path} fill="none" stroke="var(--cool)" strokeWidth={2} />
      {away !== null && typeof mark === "number" && (
        <circle cx={x(away)} cy={y(mark)} r={4} fill="var(--clay)" />
      )}
      <text x={8} y={H - 2} fontSize={11} fill="var(--soft)">
        {from}
      </text>
      <text x={W - 8} y={H - 2} fontSize={11} fill="var(--soft)" textAnchor="end">
        {to}
      </text>
    </svg>
  );
}
