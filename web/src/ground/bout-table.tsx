import type { Schemas } from "../api/client";
import { BOUT_COLUMNS, boutRows } from "../ui/bouts-csv";
import { plusMinus } from "../ui/plus-minus";
import { SaveTable } from "../ui/save-table";

type Bout = Schemas["BoutSaid"];
type Estimate = Schemas["Estimate"];

const ROWS: readonly [string, string, (b: Bout) => string | null][] = [
  ["Stride length", "m", (b) => of(b.stride_length_m, 1, 2)],
  ["by", "", (b) => b.stride_length_source ?? null],
  ["Speed", "m/s", (b) => of(b.speed, 1, 2)],
  ["Step, left fore to right", "m", (b) => of(b.step_lengths_m[0], 1, 2)],
  ["Step, right fore to left", "m", (b) => of(b.step_lengths_m[1], 1, 2)],
  ["Hind print before fore print", "cm", (b) => of(b.overtrack_m, 100, 0)],
  ["Hinds left of the fores", "cm", (b) => of(b.hinds_beside_m, 100, 0)],
  [
    "Strays from a straight line",
    "cm",
    (b) => (typeof b.strays_m === "number" ? (b.strays_m * 100).toFixed(0) : null),
  ],
  ["Tracks", "", (b) => b.tracks?.toString() ?? null],
  ["Body to the track, left +", "°", (b) => of(b.body_angle_deg, 1, 0)],
  ["Shoulders to the track, left +", "°", (b) => of(b.shoulder_angle_deg, 1, 0)],
  ["Bend, left +", "°", (b) => of(b.bend_deg, 1, 0)],
  ["Froude number", "", (b) => (typeof b.froude === "number" ? b.froude.toFixed(2) : null)],
  [
    "Stride in hip heights",
    "",
    (b) =>
      typeof b.relative_stride_length === "number" ? b.relative_stride_length.toFixed(2) : null,
  ],
];

/** Figures of the ground, a column a bout. */
export function BoutTable({ bouts, jump }: { bouts: readonly Bout[]; jump: (s: number) => void }) {
  const shown = bouts.filter((b) => b.stride_length_m);
  if (shown.length === 0) return null;
  const rows = ROWS.map(([name, unit, read]) => ({ name, unit, cells: shown.map(read) })).filter(
    (r) => r.cells.some((c) => c !== null),
  );
  return (
    <div className="mt-3 overflow-x-auto">
      <table className="w-full text-[0.95rem]">
        <caption className="text-soft text-left text-sm">
          Each figure with its 95 % interval{" "}
          <SaveTable name="ground-figures" columns={BOUT_COLUMNS} rows={() => boutRows(shown)} />
        </caption>
        <thead>
          <tr className="border-ink border-b">
            <td />
            {shown.map((b) => (
              <th key={b.start_s} scope="col" className="pl-2 text-right font-normal">
                <button
                  type="button"
                  className="text-clay min-h-7 underline underline-offset-3"
                  onClick={() => jump(b.start_s)}
                >
                  {b.label} {b.start_s.toFixed(1)} s
                </button>
              </th>
            ))}
            <td />
          </tr>
        </thead>
        <tbody>
          {rows.map((r) => (
            <tr key={r.name} className="border-line border-b align-baseline">
              <th scope="row" className="py-0.5 pr-2 text-left font-normal">
                {r.name}
              </th>
              {r.cells.map((c, k) => (
                <td
                  key={shown[k]?.start_s}
                  className="pl-2 text-right font-mono text-[0.87rem] whitespace-nowrap"
                >
                  {c ?? "—"}
                </td>
              ))}
              <td className="text-soft pl-1 text-sm">{r.unit}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

function of(e: Estimate | null | undefined, scale: number, digits: number): string | null {
  return e ? plusMinus(e, scale, digits) : null;
}
