import { memo, useLayoutEffect, useRef } from "react";

import { draw, type Scene } from "./draw";
import { LANES_TOP, SOUND, SOUND_Y } from "./rows";

/** Stances, footfalls and sound, on a canvas: a long clip holds ten thousand of them. */
export const Lanes = memo(function Lanes({
  scene,
  changedAt,
}: {
  scene: Scene;
  changedAt: number;
}) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const height = SOUND_Y + SOUND;
  useLayoutEffect(() => {
    const element = canvas.current;
    const ctx = element?.getContext("2d");
    if (!element || !ctx) return;
    const ratio = window.devicePixelRatio || 1;
    const [wide, high] = [Math.round(scene.width * ratio), Math.round(height * ratio)];
    if (element.width !== wide || element.height !== high) {
      element.width = wide;
      element.height = high;
    }
    ctx.setTransform(ratio, 0, 0, ratio, 0, 0);
    draw(ctx, scene);
    // From the key or the pointer to the finished drawing; a spec reads it.
    if (changedAt > 0) performance.measure("strip", { start: changedAt });
  }, [scene, height, changedAt]);
  return (
    <canvas
      ref={canvas}
      className="pointer-events-none absolute left-0"
      style={{ top: LANES_TOP, width: scene.width, height }}
    />
  );
});
