/** Heights of the strip, pixels from its top. */
export const BAND = 22;
export const LANES_TOP = BAND + 4;
export const LANE = 23;
/** Between the two diagonals. */
const APART = 6;
/** Middles of the lanes LF, RH, LH, RF, from the top of the lanes. */
export const LANE_Y = [0.5, 1.5, 2.5, 3.5].map((n, k) => n * LANE + (k > 1 ? APART : 0));
export const LANES = 4 * LANE + APART;
export const SOUND_TOP = LANES_TOP + LANES + 3;
export const SOUND = 22;
export const FILM_TOP = SOUND_TOP + SOUND + 1;
export const FILM = 27;
export const AXIS_TOP = FILM_TOP + FILM;
export const HEIGHT = AXIS_TOP + 17;
