import type { Schemas } from "../api/client";

export type Pixel = Schemas["Pixel"];

type Size = { width: number; height: number };
export type Box = { width: number; height: number };

/** Close enough to see a hoof. */
const HOOF = 4;

/** Which part of the picture is looked at: its middle, as shown, and how close (1: all of it). */
export type Look = { x: number; y: number; close: number };

export const whole = (clip: Size): Look => ({ x: clip.width / 2, y: clip.height / 2, close: 1 });

export const sizeOf = (e: HTMLElement): Box => ({ width: e.clientWidth, height: e.clientHeight });

/** Where the picture lies in its frame, and how many screen pixels one of its pixels takes. */
export function boxOf(clip: Size, frame: Box, look: Look) {
  const fit = Math.min(frame.width / clip.width, frame.height / clip.height);
  const scale = Math.max(fit * look.close, 0.05);
  // What fits is centred; what does not may not leave an empty edge.
  const place = (room: number, length: number, middle: number) => {
    const long = length * scale;
    if (long <= room) return (room - long) / 2;
    return Math.min(0, Math.max(room - long, room / 2 - middle * scale));
  };
  return {
    scale,
    left: place(frame.width, clip.width, look.x),
    top: place(frame.height, clip.height, look.y),
  };
}

/** Where a pixel of the footage is on screen; a mirror image is shown turned back. */
export function shownAt(
  p: Pixel,
  clip: Size,
  box: { scale: number; left: number; top: number },
  mirrored: boolean,
) {
  const x = mirrored ? clip.width - p.x_px : p.x_px;
  return { x: box.left + x * box.scale, y: box.top + p.y_px * box.scale };
}

export function clamped(look: Look, clip: Size): Look {
  const within = (v: number, most: number) => Math.min(Math.max(v, 0), most);
  return { ...look, x: within(look.x, clip.width), y: within(look.y, clip.height) };
}

/** Looks closer at a pixel, or wider; the pixel stays where it is as far as it can. */
export function closer(look: Look, clip: Size, p: Pixel, by: number, mirrored: boolean): Look {
  const close = Math.min(Math.max(look.close * by, 1), 12);
  if (close === 1) return whole(clip);
  const x = mirrored ? clip.width - p.x_px : p.x_px;
  const share = look.close / close;
  return clamped(
    { close, x: x + (look.x - x) * share, y: p.y_px + (look.y - p.y_px) * share },
    clip,
  );
}

/** Looks at a pixel from as near as before, or near enough to see a hoof. */
export function lookAt(look: Look, clip: Size, p: Pixel, mirrored: boolean): Look {
  const x = mirrored ? clip.width - p.x_px : p.x_px;
  return clamped({ close: look.close > 1 ? look.close : HOOF, x, y: p.y_px }, clip);
}
