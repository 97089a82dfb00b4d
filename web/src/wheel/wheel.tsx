import { useId } from "react";

import type { Schemas } from "../api/client";
import { inkOf, LimbMark, ORDER, paleOf, RINGS } from "../ui/limbs";
import { arc, at, sector } from "./geometry";
import { wheelInWords } from "./words";

export type WheelData = Schemas["Wheel"];

type Props = {
  wheel: WheelData | null;
  /** Width and height in pixels. */
  size: number;
  /** Place of the playhead in its stride, if it is in one of this bout's. */
  hand?: number | null;
  /** Small wheels leave out the single strides and the ideal beats. */
  small?: boolean;
};

const RIM = 100;
const RADII = [88, 73, 58, 43];

/** One turn of the wheel is one stride; all strides of a bout lie over one another. */
export function Wheel({ wheel, size, hand, small = false }: Props) {
  const id = useId();
  const edge = small ? 104 : 122;
  const band = small ? 11 : 9;
  return (
    <svg
      role="img"
      aria-labelledby={id}
      width={size}
      height={size}
      viewBox={`${-edge} ${-edge} ${2 * edge} ${2 * edge}`}
      className="block shrink-0"
    >
      <title id={id}>{wheel ? wheelInWords(wheel) : "No stride timed yet."}</title>
      {wheel?.air.map(([from, to]) => (
        <path key={from} d={sector(from ?? 0, to ?? 0, RIM)} fill="var(--air)" />
      ))}
      {!small &&
        RADII.map((r) => (
          <circle key={r} r={r} fill="none" stroke="var(--line)" strokeWidth={0.8} />
        ))}
      <circle
        r={RIM}
        fill="none"
        stroke={wheel ? "var(--ink)" : "var(--line)"}
        strokeWidth={small ? 2.5 : 1.4}
        strokeDasharray={wheel ? undefined : "7 7"}
      />
      {wheel && <Stances wheel={wheel} band={band} />}
      {wheel && !small && <Beats wheel={wheel} />}
      {wheel && !small && <Strides wheel={wheel} />}
      {wheel && <Means wheel={wheel} r={small ? 9 : 7} />}
      {hand !== undefined && hand !== null && <Hand phase={hand} />}
    </svg>
  );
}

function Stances({ wheel, band }: { wheel: WheelData; band: number }) {
  return RINGS.map((limb, ring) => {
    const k = ORDER.indexOf(limb);
    const on = wheel.mean.on[k];
    const off = wheel.mean.off[k];
    if (typeof on !== "number" || typeof off !== "number") return null;
    return (
      <path
        key={limb}
        d={arc(on, off, RADII[ring] ?? 0)}
        fill="none"
        stroke={paleOf(limb)}
        strokeWidth={band}
      />
    );
  });
}

function Beats({ wheel }: { wheel: WheelData }) {
  return wheel.ideal.map((phase, k) => {
    const a = at(phase, RIM);
    const b = at(phase, RIM + 7);
    const label = at(phase, RIM + 15);
    return (
      <g key={phase}>
        <line x1={a.x} y1={a.y} x2={b.x} y2={b.y} stroke="var(--ink)" strokeWidth={2.2} />
        <text
          x={label.x}
          y={label.y}
          fontSize={13}
          textAnchor="middle"
          dominantBaseline="central"
          fill="var(--soft)"
        >
          {k + 1}
        </text>
      </g>
    );
  });
}

/** Every stride's footfalls: sharp when steady, a smear when not. At most 60, evenly picked. */
function Strides({ wheel }: { wheel: WheelData }) {
  const step = Math.max(1, Math.ceil(wheel.strides.length / 60));
  const some = wheel.strides.filter((_, k) => k % step === 0);
  return RINGS.map((limb, ring) => {
    const k = ORDER.indexOf(limb);
    const radius = RADII[ring] ?? 0;
    return some.map((stride, n) => {
      const phase = stride.on[k];
      if (typeof phase !== "number") return null;
      const a = at(phase, radius - 6.5);
      const b = at(phase, radius + 6.5);
      return (
        <line
          key={`${limb}${n}`}
          x1={a.x}
          y1={a.y}
          x2={b.x}
          y2={b.y}
          stroke={inkOf(limb)}
          strokeWidth={1}
          opacity={0.5}
        />
      );
    });
  });
}

function Means({ wheel, r }: { wheel: WheelData; r: number }) {
  return RINGS.map((limb, ring) => {
    const phase = wheel.mean.on[ORDER.indexOf(limb)];
    if (typeof phase !== "number") return null;
    const p = at(phase, RADII[ring] ?? 0);
    return <LimbMark key={limb} limb={limb} x={p.x} y={p.y} r={r} turn={phase * 360} />;
  });
}

function Hand({ phase }: { phase: number }) {
  const tip = at(phase, RIM + 4);
  return (
    <g>
      <line x1={0} y1={0} x2={tip.x} y2={tip.y} stroke="var(--clay)" strokeWidth={1.6} />
      <circle r={3} fill="var(--clay)" />
    </g>
  );
}
