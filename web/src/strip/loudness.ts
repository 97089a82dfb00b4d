import type { Schemas } from "../api/client";
import type { Window } from "./view";

/**
 * How loud a clip is, ready to be drawn at any width: each level holds the loudest of four points
 * of the level below, so that a column of a long clip is a few points, not thousands.
 */
export class Loudness {
  private readonly levels: readonly Uint8Array[];
  private readonly step_us: number;

  constructor(sound: Schemas["Sound"]) {
    this.step_us = sound.step_us;
    const levels = [Uint8Array.from(sound.points)];
    for (let below = levels[0]; below && below.length > 64; below = levels.at(-1)) {
      const points = below;
      levels.push(
        Uint8Array.from({ length: Math.ceil(points.length / 4) }, (_, k) =>
          Math.max(...points.subarray(4 * k, 4 * k + 4)),
        ),
      );
    }
    this.levels = levels;
  }

  /** The loudest of each of `columns` equal parts of a window, 0 to 255. */
  columns(view: Window, columns: number): Uint8Array {
    const per = (view.to - view.from) / columns / this.step_us;
    const level = Math.max(
      0,
      Math.min(this.levels.length - 1, Math.floor(Math.log(per) / Math.log(4))),
    );
    const points = this.levels[level] ?? new Uint8Array();
    const scale = 4 ** level;
    const first = view.from / this.step_us / scale;
    return Uint8Array.from({ length: columns }, (_, c) => {
      const a = Math.max(0, Math.floor(first + (c * per) / scale));
      const b = Math.max(a + 1, Math.floor(first + ((c + 1) * per) / scale));
      let loudest = 0;
      for (let k = a; k < Math.min(b, points.length); k++)
        loudest = Math.max(loudest, points[k] ?? 0);
      return loudest;
    });
  }
}
