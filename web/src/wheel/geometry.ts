/** A point of the clock face: phase 0 at twelve, clockwise. */
export function at(phase: number, radius: number): { x: number; y: number } {
  const angle = phase * 2 * Math.PI;
  return { x: radius * Math.sin(angle), y: -radius * Math.cos(angle) };
}

/** An arc clockwise from one phase to the next. */
export function arc(from: number, to: number, radius: number): string {
  const span = (((to - from) % 1) + 1) % 1;
  const a = at(from, radius);
  const b = at(from + span, radius);
  const large = span > 0.5 ? 1 : 0;
  return `M${a.x.toFixed(2)} ${a.y.toFixed(2)}A${radius} ${radius} 0 ${large} 1 ${b.x.toFixed(2)} ${b.y.toFixed(2)}`;
}

/** A sector of the disc, centre to rim. */
export function sector(from: number, to: number, radius: number): string {
  return `M0 0L${arc(from, to, radius).slice(1)}Z`;
}

type Phases = { mean: { on: readonly (number | null | undefined)[] } };

/** Half a stride when the limbs of one wheel lie nearer to those of another after half a turn. */
export function halfTurn(wheel: Phases, other: Phases): 0 | 0.5 {
  let apart = 0;
  let pairs = 0;
  for (const [k, phase] of wheel.mean.on.entries()) {
    const there = other.mean.on[k];
    if (typeof phase !== "number" || typeof there !== "number") continue;
    const away = Math.abs(((((there - phase + 0.5) % 1) + 1) % 1) - 0.5);
    apart += away;
    pairs += 1;
  }
  return pairs > 0 && apart / pairs > 0.25 ? 0.5 : 0;
}
