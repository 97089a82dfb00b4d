import type { Schemas } from "../api/client";
import { LANES, LANES_TOP } from "./rows";

type Props = {
  parts: readonly Schemas["Unseen"][];
  x: (us: number) => number;
  width: number;
};

/** Parts in which no hooves are seen, and why. */
export function Unseen({ parts, x, width }: Props) {
  return parts.map((p) => {
    const from = Math.max(0, x(p.from_us));
    const to = Math.min(width, x(p.to_us));
    if (to - from < 2) return null;
    return (
      <g key={p.from_us}>
        <title>{`No hooves are seen here: ${p.why}`}</title>
        <rect
          x={from}
          y={LANES_TOP}
          width={to - from}
          height={LANES}
          fill="var(--soft)"
          fillOpacity={0.12}
        />
        {to - from > 220 && (
          <text x={from + 6} y={LANES_TOP + LANES / 2 + 4} fontSize={12} fill="var(--soft)">
            no hooves seen
          </text>
        )}
      </g>
    );
  });
}
