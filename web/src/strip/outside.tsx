import type { Schemas } from "../api/client";
import { AXIS_TOP } from "./rows";

type Props = { settings: Schemas["ClipSettings"]; x: (us: number) => number; width: number };

/** What lies before the clip's chosen begin and after its end does not count. */
export function Outside({ settings, x, width }: Props) {
  const { trim_from_us: from, trim_to_us: to } = settings;
  const left = typeof from === "number" ? Math.min(Math.max(0, x(from)), width) : 0;
  const right = typeof to === "number" ? Math.min(Math.max(0, x(to)), width) : width;
  const veil = { y: 0, height: AXIS_TOP, fill: "var(--sand)", opacity: 0.72 };
  return (
    <g pointerEvents="none">
      {left > 0 && <rect x={0} width={left} {...veil} />}
      {right < width && <rect x={right} width={width - right} {...veil} />}
    </g>
  );
}
