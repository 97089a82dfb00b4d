import type { Schemas } from "../api/client";
import { BAND } from "./rows";

type Props = {
  bouts: readonly Schemas["BoutSaid"][];
  x: (us: number) => number;
  slow: number;
  width: number;
};

/** Runs of one gait and lead. */
export function Bouts({ bouts, x, slow, width }: Props) {
  return bouts.map((b) => {
    const from = Math.max(0, x(b.start_s * slow * 1e6));
    const to = Math.min(width, x(b.end_s * slow * 1e6));
    if (to <= 0 || from >= width) return null;
    const wide = Math.max(0, to - from - 2);
    const said = `${b.label} · ${b.strides} ${b.strides === 1 ? "stride" : "strides"}`;
    return (
      <g key={b.start_s}>
        <rect x={from} y={0} width={wide} height={BAND - 2} fill="var(--dune)" />
        {wide > said.length * 6.6 && (
          <text x={from + 8} y={14.5} fontSize={14} fill="var(--ink)">
            {said}
          </text>
        )}
      </g>
    );
  });
}
