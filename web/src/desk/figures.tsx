import type { Schemas } from "../api/client";
import { NAMES, ORDER } from "../ui/limbs";
import { plusMinus } from "../ui/plus-minus";
import { SaveTable } from "../ui/save-table";
import { BOUT_COLUMNS, boutRows } from "../ui/bouts-csv";

type Estimate = Schemas["Estimate"];
type Line = { name: string; value: string; unit: string; why?: string | undefined };

/** Every figure of a bout with its error, or why there is none. */
export function Figures({
  bout,
  all,
}: {
  bout: Schemas["BoutSaid"];
  all: readonly Schemas["BoutSaid"][];
}) {
  return (
    <>
      <table className="w-full text-[0.95rem]">
        <caption className="sr-only">Figures of this bout with 95 % intervals</caption>
        <tbody>
          {lines(bout).map((line) => (
            <tr key={line.name} className="border-line border-b align-baseline">
              <th scope="row" className="py-1 pr-2 text-left font-normal">
                {line.name}
              </th>
              {line.value ? (
                <>
                  <td className="py-1 text-right font-mono text-[0.87rem] whitespace-nowrap">
                    {line.value}
                  </td>
                  <td className="text-soft py-1 pl-2 text-sm whitespace-nowrap">{line.unit}</td>
                </>
              ) : (
                <td colSpan={2} className="text-soft py-1 text-right text-sm">
                  {line.why ?? "not known"}
                </td>
              )}
            </tr>
          ))}
        </tbody>
      </table>
      <p className="text-soft mt-1 text-sm">
        Every figure of every bout of this clip:
        <SaveTable name="figures" columns={BOUT_COLUMNS} rows={() => boutRows(all)} />
      </p>
    </>
  );
}

function lines(b: Schemas["BoutSaid"]): Line[] {
  const why = (key: string) => b.why[key];
  const row = (
    name: string,
    key: string,
    e: Estimate | null | undefined,
    scale: number,
    digits: number,
    unit: string,
  ): Line => ({ name, value: e ? plusMinus(e, scale, digits) : "", unit, why: why(key) });
  const out = [
    row("Tempo", "tempo", b.tempo, 1, 1, "strides/min"),
    row("Stride duration", "stride_duration_s", b.stride_duration_s, 1000, 0, "ms"),
    regularity(b),
    row("Air, one phase", "suspension_s", b.suspension_s, 1000, 0, "ms"),
  ];
  if (b.canter_split_s) {
    out.push(row("Split of the diagonal", "canter_beats", b.canter_split_s, 1000, 0, "ms"));
    const c = b.canter_beats;
    const counts = c ? `${c.three} · ${c.split} · ${c.four} · ${c.unresolved}` : "";
    const name = "Three, split, four beats, not to be told";
    out.push({ name, value: counts, unit: "strides", why: why("canter_beats") });
  } else {
    const d = b.diagonal_dissociation_s;
    const key = "diagonal_dissociation_s";
    if (d["LH-RF"]) out.push(row("Left hind before right fore", key, d["LH-RF"], 1000, 0, "ms"));
    if (d["RH-LF"]) out.push(row("Right hind before left fore", key, d["RH-LF"], 1000, 0, "ms"));
  }
  if (b.lateral_advanced_placement) {
    const lap = b.lateral_advanced_placement;
    out.push(row("Fore after hind of its side", "", lap, 100, 1, "% of stride"));
  }
  if (b.step_asymmetry_pct) {
    out.push(row("Left step against right", "", b.step_asymmetry_pct, 1, 1, "%"));
  }
  for (const limb of ORDER) {
    out.push(
      row(`Stance, ${NAMES[limb]}`, "duty_factor", b.duty_factor[limb], 100, 1, "% of stride"),
    );
  }
  out.push(
    row(
      "Left stance against right, hinds",
      "stance_symmetry_pct",
      b.stance_symmetry_pct.hind,
      1,
      1,
      "%",
    ),
  );
  out.push(
    row(
      "Left stance against right, fores",
      "stance_symmetry_pct",
      b.stance_symmetry_pct.fore,
      1,
      1,
      "%",
    ),
  );
  out.push(row("Speed", "speed", b.speed, 1, 2, "m/s"));
  out.push(row("Stride length", "stride_length_m", b.stride_length_m, 1, 2, "m"));
  return out;
}

function regularity(b: Schemas["BoutSaid"]): Line {
  const r = b.regularity_cv_pct;
  const name = "Strides differ by";
  if (!r) return { name, value: "", unit: "%", why: b.why["regularity_cv_pct"] };
  if (typeof r.at_most === "number") return { name, value: `≤ ${r.at_most.toFixed(1)}`, unit: "%" };
  const range = r.ci95 ? ` (${r.ci95[0]?.toFixed(1)}–${r.ci95[1]?.toFixed(1)})` : "";
  return { name, value: `${r.value.toFixed(1)}${range}`, unit: "%" };
}
