import { memo } from "react";

import { FILM, FILM_TOP } from "./rows";
import type { View } from "./view";

type Props = { source: string; view: View; width: number };

/** Pictures in a filmstrip, evenly along the clip. */
const PICTURES = 40;
/** Width of a shown picture, pixels; its height is the row's. */
const WIDE = 48;

/** Small pictures along the clip, for finding one's way in a long one. */
export const Filmstrip = memo(function Filmstrip({ source, view, width }: Props) {
  const span = view.clip.to - view.clip.from;
  const places = Array.from({ length: Math.floor(width / WIDE) }, (_, k) => k * WIDE);
  return (
    <foreignObject x={0} y={FILM_TOP} width={width} height={FILM} pointerEvents="none">
      <div className="relative h-full" aria-hidden>
        {places.map((px) => {
          const us = view.from + ((px + WIDE / 2) / width) * (view.to - view.from);
          const share = (us - view.clip.from) / span;
          const picture = Math.min(PICTURES - 1, Math.max(0, Math.floor(share * PICTURES)));
          return (
            <div
              key={px}
              className="absolute top-0 h-full"
              style={{
                left: px,
                width: WIDE - 1,
                backgroundImage: `url(${source})`,
                backgroundSize: `${PICTURES * 100}% auto`,
                backgroundPosition: `${(picture / (PICTURES - 1)) * 100}% 50%`,
              }}
            />
          );
        })}
      </div>
    </foreignObject>
  );
});
