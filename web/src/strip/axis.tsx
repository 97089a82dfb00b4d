import { AXIS_TOP } from "./rows";
import type { Window } from "./view";

type Props = { view: Window; x: (us: number) => number; slow: number };

const STEPS = [0.1, 0.2, 0.5, 1, 2, 5, 10, 30, 60, 120, 300, 600];

/** True seconds. */
export function Axis({ view, x, slow }: Props) {
  const perS = slow * 1e6;
  const step = STEPS.find((s) => x(view.from + s * perS) - x(view.from) >= 64) ?? 1200;
  const ticks: number[] = [];
  for (let k = Math.ceil(view.from / perS / step); k * step * perS <= view.to; k++) {
    ticks.push(k * step);
  }
  return (
    <g fontSize={12.5} fill="var(--soft)" fontFamily="var(--font-mono)">
      {ticks.map((s) => (
        <g key={s}>
          <line
            x1={x(s * perS)}
            x2={x(s * perS)}
            y1={AXIS_TOP}
            y2={AXIS_TOP + 3}
            stroke="var(--soft)"
          />
          <text x={Math.max(24, x(s * perS))} y={AXIS_TOP + 14} textAnchor="middle">
            {label(s, step)}
          </text>
        </g>
      ))}
    </g>
  );
}

function label(s: number, step: number): string {
  if (step >= 60) return `${Math.round(s / 60)} min`;
  const digits = step < 1 ? 1 : 0;
  if (s < 60) return `${s.toFixed(digits)} s`;
  return `${Math.floor(s / 60)}:${(s % 60).toFixed(digits).padStart(digits ? 4 : 2, "0")}`;
}
