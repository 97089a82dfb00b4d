import { useSyncExternalStore } from "react";

import type { Schemas } from "../api/client";
import type { FrameClock } from "../live/frame-clock";
import { inkOf, LimbMark, NAMES, ORDER, RINGS, type Limb } from "../ui/limbs";

type Mark = Schemas["Mark"];
type Props = { marks: readonly Mark[]; clock: FrameClock; says: string; which: string };

/** Seen from above, nose up. */
const PLACES: Record<Limb, readonly [number, number]> = {
  LF: [74, 92],
  RF: [146, 92],
  LH: [74, 214],
  RH: [146, 214],
};
const [FROM, TO, TOP, LANE] = [250, 600, 70, 46];
/** What the lanes show on either side of now, µs. */
const REACH = 900_000;

/** A ride without footage: which hooves stand now, and the footfalls about this moment. */
export function HoofBoard({ marks, clock, says, which }: Props) {
  const { frame } = useSyncExternalStore(clock.subscribe, clock.snapshot);
  const now = clock.times[frame] ?? 0;
  const near = marks.filter((m) => m.on_us < now + REACH && (m.off_us ?? m.on_us) > now - REACH);
  const down = ORDER.filter((limb) =>
    near.some((m) => m.limb === limb && m.on_us <= now && now < (m.off_us ?? m.on_us)),
  );
  const x = (us: number) =>
    FROM + ((Math.min(Math.max(us - now, -REACH), REACH) + REACH) / (2 * REACH)) * (TO - FROM);
  return (
    <figure className="bg-chalk border-line relative aspect-video overflow-hidden rounded-[3px] border">
      <svg
        viewBox="0 0 620 349"
        className="size-full"
        role="img"
        aria-label={
          down.length ? `On the ground: ${down.map((l) => NAMES[l]).join(", ")}` : "In the air"
        }
      >
        <path
          d="M110 40 C132 62 128 92 132 130 C140 190 132 236 110 262 C88 236 80 190 88 130 C92 92 88 62 110 40Z"
          fill="none"
          stroke="var(--line)"
          strokeWidth={1.5}
        />
        {ORDER.map((limb) => {
          const [cx, cy] = PLACES[limb];
          const stands = down.includes(limb);
          return (
            <g key={limb}>
              {stands && (
                <circle cx={cx} cy={cy} r={27} fill="none" stroke={inkOf(limb)} strokeWidth={2} />
              )}
              <LimbMark limb={limb} x={cx} y={cy} r={stands ? 15 : 9} faint={!stands} />
            </g>
          );
        })}
        {RINGS.map((limb, k) => (
          <g key={limb}>
            <text
              x={FROM - 8}
              y={TOP + k * LANE + 5}
              textAnchor="end"
              fontSize={14}
              fill="var(--soft)"
            >
              {limb}
            </text>
            <line x1={FROM} x2={TO} y1={TOP + k * LANE} y2={TOP + k * LANE} stroke="var(--line)" />
            {near
              .filter((m) => m.limb === limb)
              .map((m) => (
                <g key={m.id}>
                  {typeof m.off_us === "number" && (
                    <line
                      x1={x(m.on_us)}
                      x2={x(m.off_us)}
                      y1={TOP + k * LANE}
                      y2={TOP + k * LANE}
                      stroke={inkOf(limb)}
                      strokeOpacity={0.4}
                      strokeWidth={12}
                    />
                  )}
                  {Math.abs(m.on_us - now) < REACH && (
                    <LimbMark limb={limb} x={x(m.on_us)} y={TOP + k * LANE} r={7} />
                  )}
                </g>
              ))}
          </g>
        ))}
        <line
          x1={x(now)}
          x2={x(now)}
          y1={TOP - 26}
          y2={TOP + 3 * LANE + 26}
          stroke="var(--clay)"
          strokeWidth={2}
        />
      </svg>
      <figcaption className="bg-sand absolute bottom-1 left-1 rounded-[2px] px-1.5 text-sm">
        {says} · no footage, footfalls only · moment{" "}
        <span className="font-mono" data-testid={`${which}-frame`} aria-busy={false}>
          {frame + 1}
        </span>
      </figcaption>
    </figure>
  );
}
