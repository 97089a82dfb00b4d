import type { Schemas } from "../api/client";
import type { Mark } from "../live/clip-store";
import { LimbMark } from "../ui/limbs";
import type { Calibration, Pixel } from "./aim";

type At = (p: Pixel) => { x: number; y: number };

/** Clicked hooves: those that stand in this frame full, the others faint. */
export function HoofDots({
  marks,
  now,
  aimed,
  at,
}: {
  marks: readonly Mark[];
  now: number;
  aimed: string | null;
  at: At;
}) {
  return marks.map((m) => {
    if (!m.hoof) return null;
    const p = at(m.hoof);
    const stands = m.on_us <= now && (m.off_us ?? m.on_us + 250_000) > now;
    return (
      <g key={m.id} opacity={stands || m.id === aimed ? 1 : 0.45}>
        <LimbMark limb={m.limb} x={p.x} y={p.y} r={stands ? 6 : 4} />
        {m.id === aimed && (
          <circle cx={p.x} cy={p.y} r={12} fill="none" stroke="#fbf8f1" strokeWidth={2} />
        )}
      </g>
    );
  });
}

/** Points of the scale, with their names. */
export function ScaleDots({ own, at }: { own: Calibration; at: At }) {
  const [ground, withers] = own.withers;
  return (
    <>
      {own.points.map((p) => (
        <Named key={p.name} name={p.name} at={at(p.seen)} />
      ))}
      {own.bar.map((p) => (
        <Named key={p.at_m} name={`${p.at_m} m`} at={at(p.seen)} />
      ))}
      {ground && <Named name="ground" at={at(ground)} />}
      {withers && <Named name="withers" at={at(withers)} />}
    </>
  );
}

/** Points of a still, with their names. */
export function StillDots({ still, at }: { still: Schemas["Still"]; at: At }) {
  return Object.entries(still.points).map(([name, p]) => (
    <Named key={name} name={name} at={at(p)} />
  ));
}

function Named({ name, at: { x, y } }: { name: string; at: { x: number; y: number } }) {
  return (
    <g>
      <path
        d={`M${x - 6} ${y}H${x + 6}M${x} ${y - 6}V${y + 6}`}
        stroke="#12161a"
        strokeWidth={4}
        opacity={0.6}
      />
      <path d={`M${x - 6} ${y}H${x + 6}M${x} ${y - 6}V${y + 6}`} stroke="#f6d8a8" strokeWidth={2} />
      <text
        x={x + 8}
        y={y - 6}
        fontSize={13}
        fill="#fbf8f1"
        stroke="#12161a"
        strokeWidth={3}
        paintOrder="stroke"
      >
        {name}
      </text>
    </g>
  );
}
