import { type RefObject, useEffect, useRef } from "react";

import type { Pixel } from "./look";

type Props = {
  video: RefObject<HTMLVideoElement | null>;
  clip: { width: number; height: number };
  at: Pixel;
  mirrored: boolean;
  /** It stands on the left, out of the way of the cross. */
  left: boolean;
  /** Screen pixels of one pixel of the footage. */
  times: number;
};

const SIDE = 150;

/** The picture about the cross, many times larger. */
export function Loupe({ video, clip, at, mirrored, left, times }: Props) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const draw = () => {
      const c = canvas.current?.getContext("2d");
      const v = video.current;
      if (!c || !v || v.videoWidth === 0) return;
      // The copy that is shown may be smaller than the footage.
      const k = v.videoWidth / clip.width;
      const span = SIDE / times;
      c.imageSmoothingEnabled = false;
      c.fillStyle = "#12161a";
      c.fillRect(0, 0, SIDE, SIDE);
      c.save();
      if (mirrored) {
        c.translate(SIDE, 0);
        c.scale(-1, 1);
      }
      const [x, y] = [(at.x_px - span / 2) * k, (at.y_px - span / 2) * k];
      c.drawImage(v, x, y, span * k, span * k, 0, 0, SIDE, SIDE);
      c.restore();
      c.strokeStyle = "#fbf8f1";
      c.lineWidth = 1;
      const m = SIDE / 2;
      c.beginPath();
      c.moveTo(m, 0);
      c.lineTo(m, m - 6);
      c.moveTo(m, m + 6);
      c.lineTo(m, SIDE);
      c.moveTo(0, m);
      c.lineTo(m - 6, m);
      c.moveTo(m + 6, m);
      c.lineTo(SIDE, m);
      c.stroke();
    };
    draw();
    const v = video.current;
    v?.addEventListener("seeked", draw);
    return () => v?.removeEventListener("seeked", draw);
  }, [video, clip, at, mirrored, times]);
  return (
    <canvas
      ref={canvas}
      width={SIDE}
      height={SIDE}
      aria-hidden
      className={`pointer-events-none absolute bottom-2 rounded-full border-2 border-[#fbf8f1] ${left ? "left-2" : "right-2"}`}
    />
  );
}
