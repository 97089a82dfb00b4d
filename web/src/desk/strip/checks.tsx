import type { Schemas } from "../../api/client";
import { RINGS } from "../../ui/limbs";
import { LANE, LANE_Y, LANES, LANES_TOP } from "./rows";

type Props = {
  checks: readonly Schemas["CheckSaid"][];
  x: (us: number) => number;
  slow: number;
  width: number;
};

/** Places where the marks look wrong, shown where they are. */
export function Checks({ checks, x, slow, width }: Props) {
  return checks.map((c) => {
    const from = x(c.from_s * slow * 1e6);
    const to = x(c.to_s * slow * 1e6);
    if (to < -8 || from > width + 8) return null;
    const lane = c.limb ? LANE_Y[RINGS.indexOf(c.limb)] : undefined;
    return (
      <g key={`${c.from_s}${c.limb ?? ""}`}>
        <title>{c.says}</title>
        {lane === undefined ? (
          <rect
            x={from}
            y={LANES_TOP}
            width={Math.max(2, to - from)}
            height={LANES}
            fill="none"
            stroke="var(--clay)"
            strokeDasharray="4 3"
          />
        ) : (
          <text
            x={from}
            y={LANES_TOP + lane + LANE / 4}
            textAnchor="middle"
            fontSize={16}
            fontWeight={700}
            fill="var(--clay)"
          >
            ?
          </text>
        )}
      </g>
    );
  });
}
