/** Heights of the strip, pixels from its top. */
export const BAND = 22;
export const TAGS_TOP = BAND;
export const TAGS = 19;
export const LANES_TOP = TAGS_TOP + TAGS + 3;
export const LANE = 22;
/** Between the two diagonals. */
const APART = 5;
/** Middles of the lanes LF, RH, LH, RF, from the top of the lanes. */
export const LANE_Y = [0.5, 1.5, 2.5, 3.5].map((n, k) => n * LANE + (k > 1 ? APART : 0));
export const LANES = 4 * LANE + APART;
export const SOUND = 20;
/** From the top of the lanes. */
export const SOUND_Y = LANES + 2;
export const SOUND_TOP = LANES_TOP + SOUND_Y;
export const FILM_TOP = SOUND_TOP + SOUND + 1;
export const FILM = 27;
export const AXIS_TOP = FILM_TOP + FILM;
export const HEIGHT = AXIS_TOP + 17;
