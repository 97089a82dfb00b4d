import { memo, useId } from "react";

import type { Schemas } from "../api/client";
import { inkOf, LimbMark, NAMES, ORDER, paleOf, RINGS } from "../ui/limbs";
import { arc, at, halfTurn, sector } from "./geometry";
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
  /** Another bout, faint behind this one. */
  ghost?: WheelData | null;
  /** A footfall of a stride is pointed at: its true second. */
  onPoint?: ((seconds: number) => void) | undefined;
};

const RIM = 100;
const RADII = [88, 73, 58, 43];

/** One turn of the wheel is one stride; all strides of a bout lie over one another. */
export function Wheel({ wheel, size, hand, small = false, ghost = null, onPoint }: Props) {
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
      {wheel && !small && <LegWindows wheel={wheel} />}
      {wheel && !small && <Beats wheel={wheel} />}
      {wheel && !small && <Strides wheel={wheel} onPoint={onPoint} />}
      {ghost && <Ghost wheel={ghost} over={wheel} />}
      {wheel && !small && <Diagonals wheel={wheel} />}
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

/** Another bout: hollow dashed marks and thin stances. A stride that begins with the other hind is
 * turned by half, so that limbs lie over themselves. */
function Ghost({ wheel, over }: { wheel: WheelData; over: WheelData | null }) {
  const turn = over ? halfTurn(wheel, over) : 0;
  return RINGS.map((limb, ring) => {
    const k = ORDER.indexOf(limb);
    const turned = (phase: number | null | undefined) =>
      typeof phase === "number" ? phase + turn : phase;
    const [on, off] = [turned(wheel.mean.on[k]), turned(wheel.mean.off[k])];
    if (typeof on !== "number") return null;
    const radius = RADII[ring] ?? 0;
    const p = at(on, radius);
    return (
      <g key={limb} fill="none" stroke="var(--ink)" strokeWidth={1.3} strokeDasharray="2.5 2.5">
        {typeof off === "number" && <path d={arc(on, off, radius + 5.5)} />}
        <circle cx={p.x} cy={p.y} r={9.5} />
      </g>
    );
  });
}

/** A line from hind to fore of each diagonal: the further it leans the further apart they land. */
function Diagonals({ wheel }: { wheel: WheelData }) {
  const pairs = [
    ["LF", "RH"],
    ["LH", "RF"],
  ] as const;
  return pairs.map(([a, b]) => {
    const [pa, pb] = [a, b].map((limb) => wheel.mean.on[ORDER.indexOf(limb as "LF")]);
    if (typeof pa !== "number" || typeof pb !== "number") return null;
    const apart = Math.abs(((((pb - pa + 0.5) % 1) + 1) % 1) - 0.5);
    // Further apart than this they are no pair.
    if (apart > 0.12) return null;
    const from = at(pa, RADII[RINGS.indexOf(a)] ?? 0);
    const to = at(pb, RADII[RINGS.indexOf(b)] ?? 0);
    return (
      <line
        key={a}
        x1={from.x}
        y1={from.y}
        x2={to.x}
        y2={to.y}
        stroke="var(--ink)"
        strokeWidth={2}
      />
    );
  });
}

/** When the leg for each hind can act: a bracket outside the rim. */
function LegWindows({ wheel }: { wheel: WheelData }) {
  return wheel.leg_windows.map((w) => (
    <path
      key={w.limb}
      d={arc(w.from, w.to, RIM + 4)}
      fill="none"
      stroke={inkOf(w.limb)}
      strokeWidth={4}
      strokeDasharray={w.limb === "LH" ? undefined : "2.5 1.5"}
    >
      <title>{`The leg for the ${NAMES[w.limb]} can act here (common practice).`}</title>
    </path>
  ));
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
const Strides = memo(function Strides({
  wheel,
  onPoint,
}: {
  wheel: WheelData;
  onPoint: ((seconds: number) => void) | undefined;
}) {
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
      const ends = { x1: a.x, y1: a.y, x2: b.x, y2: b.y };
      const [from, to] = stride.at_s ?? [];
      const there = from !== undefined && to !== undefined ? from + phase * (to - from) : null;
      return (
        <g key={`${limb}${n}`}>
          <line {...ends} stroke={inkOf(limb)} strokeWidth={1} opacity={0.5} />
          {onPoint && there !== null && (
            <line
              {...ends}
              stroke="transparent"
              strokeWidth={5}
              onPointerEnter={() => onPoint(there)}
            />
          )}
        </g>
      );
    });
  });
});

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
