import { AXIS_TOP } from "./rows";
import { ticks } from "./ticks";
import type { Window } from "./view";

type Props = { view: Window; x: (us: number) => number; slow: number };

/** True seconds. */
export function Axis({ view, x, slow }: Props) {
  const perS = slow * 1e6;
  const width = x(view.to) - x(view.from);
  return (
    <g fontSize={12.5} fill="var(--soft)" fontFamily="var(--font-mono)">
      {ticks(view.from / perS, view.to / perS, width).map(({ s, says }) => (
        <g key={s}>
          <line
            x1={x(s * perS)}
            x2={x(s * perS)}
            y1={AXIS_TOP}
            y2={AXIS_TOP + 3}
            stroke="var(--soft)"
          />
          <text x={Math.max(24, x(s * perS))} y={AXIS_TOP + 14} textAnchor="middle">
            {says}
          </text>
        </g>
      ))}
    </g>
  );
}
