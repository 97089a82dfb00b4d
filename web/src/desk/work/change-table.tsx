import type { Schemas } from "../../api/client";
import { SaveTable } from "../../ui/save-table";

type Change = Extract<Schemas["Event"], { kind: "flying_change" }>;
type Props = {
  change: Change;
  number: number;
  strides: readonly Schemas["NearChange"][];
  jump: (seconds: number) => void;
};

/** The strides before, at and after a flying change: leads of hinds and fores, air, tempo. */
export function ChangeTable({ change, number, strides, jump }: Props) {
  const fault = change.verdict !== "clean";
  return (
    <section className="py-2">
      <h3 className={`font-medium ${fault ? "text-clay" : ""}`}>
        Change {number}, {change.from} to {change.to}: {verdictWords(change)}{" "}
        <SaveTable
          name={`change-${number}`}
          columns={["place", "from_s", "hinds", "fores", "air_s", "tempo"]}
          rows={() => strides.map((s) => [s.place, s.start_s, s.hind, s.fore, s.air_s, s.tempo])}
        />
      </h3>
      <table className="w-full text-[0.9rem]">
        <thead className="text-soft text-left">
          <tr>
            <th className="font-normal">stride</th>
            <th className="font-normal">hinds</th>
            <th className="font-normal">fores</th>
            <th className="text-right font-normal">air, ms</th>
            <th className="text-right font-normal">tempo, /min</th>
          </tr>
        </thead>
        <tbody className="font-mono text-[0.85rem]">
          {strides.map((s) => (
            <tr
              key={s.start_s}
              className={`border-line border-t ${s.hind !== s.fore ? "bg-dune" : ""}`}
            >
              <td>
                <button
                  type="button"
                  className="text-clay min-h-7 min-w-12 text-left underline underline-offset-3"
                  aria-label={`Go to stride ${place(s.place)}`}
                  onClick={() => jump(s.start_s)}
                >
                  {place(s.place)}
                </button>
              </td>
              <td>{lead(s.hind)}</td>
              <td>{lead(s.fore)}</td>
              <td className="text-right">
                {typeof s.air_s === "number" ? Math.round(s.air_s * 1000) : "–"}
              </td>
              <td className="text-right">{s.tempo.toFixed(0)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {typeof change.time_sd_s === "number" && (
        <p className="text-soft text-sm">
          A footfall here is known to ± {(1000 * change.time_sd_s).toFixed(1)} ms; one stride’s air
          and tempo rest on two of them.
        </p>
      )}
    </section>
  );
}

const place = (n: number) => (n === 0 ? "0" : n > 0 ? `+${n}` : `−${-n}`);
const lead = (side: string | null | undefined) =>
  side === "left" ? "● left" : side === "right" ? "■ right" : "–";

/** `late behind by 1 stride, 240 ms`. */
export function verdictWords(c: Change): string {
  const words = c.verdict.replaceAll("_", " ");
  if (c.late_by_strides === 0) return words;
  const strides = c.late_by_strides === 1 ? "1 stride" : `${c.late_by_strides} strides`;
  const ms = typeof c.late_by_s === "number" ? `, ${Math.round(c.late_by_s * 1000)} ms` : "";
  return `${words} by ${strides}${ms}`;
}
