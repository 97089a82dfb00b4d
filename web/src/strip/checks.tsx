import type { Schemas } from "../api/client";
import { RINGS } from "../ui/limbs";
import { LANE, LANE_Y, LANES_TOP } from "./rows";

type Props = {
  checks: readonly Schemas["CheckSaid"][];
  x: (us: number) => number;
  slow: number;
  width: number;
};

/** Places where the marks look wrong, shown where they are. */
export function Checks({ checks, x, slow, width }: Props) {
  return checks.map((c) => {
    const at = x(c.from_s * slow * 1e6);
    if (at < -8 || at > width + 8) return null;
    return (
      <g key={`${c.from_s}${c.limb}`}>
        <title>{c.says}</title>
        <text
          x={at}
          y={LANES_TOP + (LANE_Y[RINGS.indexOf(c.limb)] ?? 0) + LANE / 4}
          textAnchor="middle"
          fontSize={16}
          fontWeight={700}
          fill="var(--clay)"
        >
          ?
        </text>
      </g>
    );
  });
}
