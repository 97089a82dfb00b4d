import { scaleLinear } from "d3-scale";
import type { Schemas } from "../api/client";
import { fixed, plusMinus } from "./plus-minus";
import { SaveTable, threeCells } from "./save-table";
import { Hint } from "./hint";

type Row = Schemas["ComparedRow"];
type Props = {
  rows: readonly Row[];
  first: string;
  second: string;
  /** Name of the table when it is taken along. */
  name: string;
};

/** Differences, each with its interval, what is worth speaking of, and one verdict. */
export function DifferenceTable({ rows, first, second, name }: Props) {
  return (
    <table className="mt-1 w-full text-[0.95rem]">
      <thead className="text-soft text-left text-sm">
        <tr className="border-ink border-b">
          <th className="font-normal">figure</th>
          <th className="text-right font-normal">{first}</th>
          <th className="pl-3 text-right font-normal">{second}</th>
          <th className="pl-3 font-normal">difference</th>
          <th className="pl-3 font-normal">
            <span className="flex items-baseline justify-between">
              verdict
              <SaveTable name={name} columns={COLUMNS} rows={() => rows.map(cells)} />
            </span>
          </th>
        </tr>
      </thead>
      <tbody>
        {rows.map((r) => (
          <tr key={r.metric} className="border-line border-t align-middle">
            <th scope="row" className="max-w-48 min-w-32 py-1 text-left font-normal">
              <Hint says={r.name}>
                <span>{r.name.split(":")[0]}</span>
              </Hint>
              <span className="text-soft block text-sm">
                {r.unit}
                {r.speed_says ? ` · ${r.speed_says}` : ""}
              </span>
            </th>
            <td className="text-right font-mono text-[0.85rem] whitespace-nowrap">
              {plusMinus(r.first, 1, r.digits)}
            </td>
            <td className="pl-3 text-right font-mono text-[0.85rem] whitespace-nowrap">
              {plusMinus(r.second, 1, r.digits)}
            </td>
            <td className="pl-3">
              <Interval row={r} />
            </td>
            <td
              className={`pl-3 ${r.headline && r.verdict === "worse" ? "text-clay" : ""} ${r.headline ? "font-medium" : ""}`}
            >
              {r.verdict === "better" || r.verdict === "worse"
                ? `${second} ${r.verdict}`
                : r.verdict}
              {r.provisional && <span className="text-soft block text-sm">provisional</span>}
              {r.verdict === "cannot tell" && (
                <span className="text-soft block text-sm">
                  would have shown {r.smallest.toFixed(r.digits)}
                </span>
              )}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

const COLUMNS = [
  ...["metric", "unit", "first", "first_lo", "first_hi", "second", "second_lo", "second_hi"],
  ...["difference", "lo", "hi", "adjusted_p", "would_have_shown", "worthwhile", "verdict"],
];

function cells(r: Row) {
  return [
    ...[r.metric, r.unit, ...threeCells(r.first), ...threeCells(r.second)],
    ...[r.difference, r.ci95[0], r.ci95[1], r.adjusted_p, r.smallest, r.worthwhile, r.verdict],
  ];
}

const W = 168;
const H = 34;

/** The difference and its interval about nothing; inside the band a change is not worth speaking
 * of. */
function Interval({ row }: { row: Row }) {
  const [lo = 0, hi = 0] = row.ci95;
  const reach = 1.15 * Math.max(Math.abs(lo), Math.abs(hi), 1.6 * row.worthwhile);
  const x = scaleLinear([-reach, reach], [2, W - 2]);
  const signed = (v: number) => {
    const text = fixed(v, row.digits);
    return Number(text) > 0 ? `+${text}` : text;
  };
  return (
    <svg width={W} height={H} role="img" aria-label={row.says}>
      <rect
        x={x(-row.worthwhile)}
        y={2}
        width={x(row.worthwhile) - x(-row.worthwhile)}
        height={16}
        fill="var(--air)"
      />
      <line x1={W / 2} x2={W / 2} y1={0} y2={20} stroke="var(--soft)" />
      <line x1={x(lo)} x2={x(hi)} y1={10} y2={10} stroke="var(--ink)" strokeWidth={2} />
      <circle cx={x(row.difference)} cy={10} r={3.4} fill="var(--ink)" />
      <text
        x={W / 2}
        y={H - 2}
        fontSize={12}
        textAnchor="middle"
        fill="var(--ink)"
        fontFamily="var(--font-mono)"
      >
        {`${signed(row.difference)} (${signed(lo)} to ${signed(hi)})`}
      </text>
    </svg>
  );
}
