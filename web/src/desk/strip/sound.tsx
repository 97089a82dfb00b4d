import { memo } from "react";

import type { Schemas } from "../../api/client";
import { SOUND } from "./rows";
import type { Window } from "./view";

type Props = { sound: Schemas["Sound"] | null; view: Window; width: number };

/** How loud the clip is: hoofbeats stand out. */
export const Sound = memo(function Sound({ sound, view, width }: Props) {
  if (!sound || sound.points.length === 0) return null;
  const { points, step_us } = sound;
  const columns = Math.floor(width / 2);
  const perColumn = (view.to - view.from) / columns / step_us;
  let path = `M0 ${SOUND}`;
  for (let c = 0; c < columns; c++) {
    const a = Math.floor(view.from / step_us + c * perColumn);
    const b = Math.max(a + 1, Math.floor(view.from / step_us + (c + 1) * perColumn));
    let loud = 0;
    for (let k = Math.max(0, a); k < Math.min(b, points.length); k++) {
      loud = Math.max(loud, points[k] ?? 0);
    }
    path += `L${c * 2} ${(SOUND - (loud / 255) * (SOUND - 2)).toFixed(1)}`;
  }
  return <path d={`${path}L${width} ${SOUND}Z`} fill="var(--line)" />;
});
