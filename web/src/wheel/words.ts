import type { Schemas } from "../api/client";
import { NAMES, ORDER } from "../ui/limbs";

/** The wheel for those who do not see it. */
export function wheelInWords(wheel: Schemas["Wheel"]): string {
  const beats = ORDER.flatMap((limb, k) => {
    const phase = wheel.mean.on[k];
    return typeof phase === "number" ? [{ limb, phase }] : [];
  }).sort((a, b) => a.phase - b.phase);
  if (beats.length === 0) return "Stride wheel without a whole stride.";
  const said = beats.map((b) => `${NAMES[b.limb]} at ${Math.round(b.phase * 100) % 100} %`);
  const air = wheel.air.reduce((sum, [a, b]) => sum + (((((b ?? 0) - (a ?? 0)) % 1) + 1) % 1), 0);
  const floating =
    air > 0 ? ` No hoof on the ground for ${Math.round(air * 100)} % of the stride.` : "";
  return `Stride wheel of ${wheel.strides.length} strides. Footfalls: ${said.join(", ")}.${floating}`;
}
