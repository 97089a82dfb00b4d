import { LimbMark, NAMES, RINGS } from "../ui/limbs";
import type { KeyMap } from "../live/keys";
import { HEIGHT, LANE_Y, LANES_TOP, SOUND, SOUND_TOP, TAGS_TOP } from "./rows";

/** Names of the lanes with their marks and keys. */
export function LaneLabels({ keys }: { keys: KeyMap }) {
  return (
    <svg width={76} height={HEIGHT} className="block shrink-0" aria-hidden fontSize={14}>
      <text x={0} y={15} fill="var(--soft)">
        bouts
      </text>
      <text x={0} y={TAGS_TOP + 14} fill="var(--soft)">
        ridden
      </text>
      <g transform={`translate(0 ${LANES_TOP})`}>
        {RINGS.map((limb, k) => (
          <g key={limb}>
            <title>{NAMES[limb]}</title>
            <text x={0} y={(LANE_Y[k] ?? 0) + 5} fill="var(--ink)">
              {limb}
            </text>
            <LimbMark limb={limb} x={34} y={LANE_Y[k] ?? 0} r={6} />
            <text
              x={52}
              y={(LANE_Y[k] ?? 0) + 5}
              fill="var(--soft)"
              fontFamily="var(--font-mono)"
              fontSize={12}
            >
              {keys.keyFor(limb)}
            </text>
          </g>
        ))}
      </g>
      <text x={0} y={SOUND_TOP + SOUND - 5} fill="var(--soft)">
        sound
      </text>
    </svg>
  );
}
