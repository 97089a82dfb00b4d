import { SOUND, SOUND_TOP } from "./rows";

type Props = { beats: readonly number[]; x: (us: number) => number; width: number };

/** Hoofbeats that are heard, and not whose they are: ticks above the sound. */
export function Beats({ beats, x, width }: Props) {
  const within = beats.map(x).filter((at) => at >= 0 && at <= width);
  // So many that they would run into one another say nothing.
  if (within.length === 0 || width / within.length < 2) return null;
  const path = within.map((at) => `M${at.toFixed(1)} ${SOUND_TOP}v${SOUND}`).join("");
  return (
    <path d={path} stroke="var(--clay)" strokeWidth={1}>
      <title>A hoofbeat is heard here</title>
    </path>
  );
}
