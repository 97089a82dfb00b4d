import { memo } from "react";

import { LimbMark, paleOf, RINGS } from "../../ui/limbs";
import type { Mark } from "../desk-store";
import { LANE_Y } from "./rows";

type Props = {
  marks: readonly Mark[];
  selected: string | null;
  x: (us: number) => number;
  width: number;
};

/** Stances as bars, footfalls as marks at their head. */
export const Lanes = memo(function Lanes({ marks, selected, x, width }: Props) {
  return (
    <>
      {RINGS.map((limb, k) => (
        <line
          key={limb}
          x1={0}
          x2={width}
          y1={LANE_Y[k]}
          y2={LANE_Y[k]}
          stroke="var(--line)"
          strokeWidth={1}
        />
      ))}
      {marks.map((m) => (
        <Stance key={m.id} mark={m} chosen={m.id === selected} x={x} />
      ))}
    </>
  );
});

function Stance({ mark, chosen, x }: { mark: Mark; chosen: boolean; x: (us: number) => number }) {
  const y = LANE_Y[RINGS.indexOf(mark.limb)] ?? 0;
  const from = x(mark.on_us);
  const to = typeof mark.off_us === "number" ? x(mark.off_us) : null;
  return (
    <g>
      {to !== null && (
        <rect
          x={from}
          y={y - 7}
          width={Math.max(1, to - from)}
          height={14}
          fill={paleOf(mark.limb)}
        />
      )}
      {chosen && (
        <rect
          x={from - 9}
          y={y - 10.5}
          width={(to ?? from) - from + 18}
          height={21}
          rx={3}
          fill="none"
          stroke="var(--clay)"
          strokeWidth={1.8}
        />
      )}
      <LimbMark limb={mark.limb} x={from} y={y} r={5} />
    </g>
  );
}
