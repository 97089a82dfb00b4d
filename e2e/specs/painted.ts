import type { Page } from "@playwright/test";

/**
 * Reads the frame number painted into the picture: twelve squares a sixteenth of the picture wide,
 * the lowest bit on the left, in a picture that the player turns clockwise by `rotation` degrees.
 * Of several videos on the page it is the one at a `place`.
 */
export async function painted(page: Page, rotation = 0, place = 0): Promise<number> {
  return page.evaluate(
    ([turned = 0, nth = 0]) => {
      const video = document.querySelectorAll("video")[nth];
      if (!video) return -1;
      const canvas = document.createElement("canvas");
      [canvas.width, canvas.height] = [video.videoWidth, video.videoHeight];
      const context = canvas.getContext("2d", { willReadFrequently: true });
      if (!context) return -1;
      context.drawImage(video, 0, 0);
      let number = 0;
      for (let bit = 0; bit < 12; bit++) {
        const [u, v] = [(bit + 0.5) / 16, 0.47];
        const places: Record<number, [number, number]> = {
          0: [u, v],
          90: [1 - v, u],
          180: [1 - u, 1 - v],
          270: [v, 1 - u],
        };
        const [x, y] = places[turned] ?? [u, v];
        const at = [Math.floor(x * canvas.width), Math.floor(y * canvas.height)] as const;
        const pixel = context.getImageData(at[0], at[1], 1, 1).data;
        if ((pixel[0] ?? 0) > 128) number |= 1 << bit;
      }
      return number;
    },
    [rotation, place],
  );
}

/** Pseudo-random whole numbers below n (a small linear congruential generator). */
export function lottery(seed: number): (n: number) => number {
  let state = seed;
  return (n) => {
    state = (state * 1_103_515_245 + 12_345) % 2 ** 31;
    return Math.floor((state / 2 ** 31) * n);
  };
}
