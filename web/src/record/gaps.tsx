import { scaleLinear } from "d3-scale";
import type { Schemas } from "../api/client";
import { Drawing } from "../ui/drawing";
import { SaveTable, threeCells } from "../ui/save-table";
import { dayAndMonth } from "../ui/dates";
import { Hint } from "../ui/hint";

type Gap = Schemas["Gap"];

/** The weaker side over time: right less left, session by session. */
export function Gaps({ record }: { record: Schemas["Record"] }) {
  if (record.gaps.length === 0) return null;
  return (
    <section aria-label="Right less left over the sessions">
      <div className="flex items-baseline gap-2">
        <h2 className="grow text-[1.3rem] font-medium">Right less left, session by session</h2>
        <SaveTable
          name={`${record.name}-${record.gait}-right-less-left`}
          columns={[
            "date",
            ...record.gaps.flatMap((g) => [g.metric, `${g.metric}_lo`, `${g.metric}_hi`]),
          ]}
          rows={() =>
            record.sessions.map((s, k) => [
              s.date,
              ...record.gaps.flatMap((g) => threeCells(g.series[k])),
            ])
          }
        />
      </div>
      {record.weak_side && <p>{record.weak_side}</p>}
      <table className="mt-1 w-full">
        <tbody>
          {record.gaps.map((g) => (
            <tr key={g.metric} className="border-line border-t align-middle">
              <th scope="row" className="max-w-44 py-1 text-left font-normal">
                <Hint says={g.name}>
                  <span>{g.name.split(":")[0]}</span>
                </Hint>
                <span className="text-soft block text-sm">{g.unit}</span>
              </th>
              <td>
                <Drawing name={`${record.name}-gap-${g.metric}`} quiet>
                  <GapPlot gap={g} record={record} />
                </Drawing>
              </td>
              <td className="pl-3 text-[0.95rem]">{g.says}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

const [W, H] = [230, 46];

/** Gaps about nothing; the pale band is what is not worth speaking of. */
function GapPlot({ gap, record }: { gap: Gap; record: Schemas["Record"] }) {
  const points = gap.series.flatMap((e, k) => {
    const session = record.sessions[k];
    return e && session ? [{ e, session }] : [];
  });
  const days = record.sessions.map((s) => s.day);
  const [from, to] = [Math.min(...days), Math.max(...days)];
  const half = Math.max(...points.map(({ e }) => Math.abs(e.value) * 1.5), gap.worthwhile * 2);
  const x = scaleLinear([from, Math.max(to, from + 1)], [8, W - 8]);
  const y = scaleLinear([-half, half], [H - 3, 3]).clamp(true);
  return (
    <svg width={W} height={H} role="img" aria-label={`${gap.name}, right less left: ${gap.says}`}>
      <rect
        x={0}
        width={W}
        y={y(gap.worthwhile)}
        height={y(-gap.worthwhile) - y(gap.worthwhile)}
        fill="var(--air)"
      />
      <line x1={0} x2={W} y1={H / 2} y2={H / 2} stroke="var(--line)" />
      {points.map(({ e, session }) => (
        <g key={session.id}>
          <title>{`${dayAndMonth(session.date)}: ${e.value.toFixed(gap.digits)} ${gap.unit}`}</title>
          {e.ci95 && (
            <line
              x1={x(session.day)}
              x2={x(session.day)}
              y1={y(e.ci95[0] ?? e.value)}
              y2={y(e.ci95[1] ?? e.value)}
              stroke="var(--soft)"
            />
          )}
          <circle cx={x(session.day)} cy={y(e.value)} r={2.6} fill="var(--ink)" />
        </g>
      ))}
    </svg>
  );
}
