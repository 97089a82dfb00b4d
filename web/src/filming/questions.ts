/** A place in the arena, metres: x across from K's side, y from the A end. */
export type Spot = { x: number; y: number };

export type Question = {
  ask: string;
  /** Where to stand. */
  camera: Spot;
  /** What is ridden past the camera. */
  track: readonly [Spot, Spot];
  /** Whether the camera stays still or follows. */
  still: boolean;
  /** Frames a second that are enough. */
  rate: number;
  stand: string;
  why: string;
};

const LONG_SIDE = [
  { x: 18.8, y: 12 },
  { x: 18.8, y: 48 },
] as const;

/** Half the width of a frame, in which a footfall may hide, ms. */
export const halfFrame = (rate: number) => 500 / rate;

export const QUESTIONS: readonly Question[] = [
  {
    ask: "Gait, tempo, which lead",
    camera: { x: -4, y: 30 },
    track: LONG_SIDE,
    still: false,
    rate: 30,
    stand: "Square to the long side, from outside the other one; follow the horse.",
    why: "Tempo is averaged over strides, so a phone’s usual 30 is enough from ten strides on.",
  },
  {
    ask: "Three beats or four, air, how a diagonal lands",
    camera: { x: -4, y: 30 },
    track: LONG_SIDE,
    still: false,
    rate: 120,
    stand: "Square to the long side, hooves sharp, low sun behind you; follow the horse.",
    why: "The limits are 20 and 40 ms apart: at 30 frames a second one frame is 33 ms.",
  },
  {
    ask: "Flying changes: clean, late, how much",
    camera: { x: -4, y: 30 },
    track: [
      { x: 19, y: 8 },
      { x: 2.5, y: 52 },
    ],
    still: false,
    rate: 60,
    stand: "At the middle of the long side the diagonal leads to; follow the horse.",
    why: "Which stride it was late by shows at 60; by how many ms it needs 120.",
  },
  {
    ask: "Longer or quicker: stride length",
    camera: { x: -4, y: 30 },
    track: LONG_SIDE,
    still: true,
    rate: 60,
    stand:
      "On a tripod that nobody touches, 10 m and more off the track, with two letters and two poles in the picture.",
    why: "Metres need four known points that are not in line, and a picture that stands still.",
  },
  {
    ask: "Tracks and angle in lateral work, straightness",
    camera: { x: 18.8, y: -4 },
    track: [
      { x: 18.8, y: 44 },
      { x: 18.8, y: 12 },
    ],
    still: true,
    rate: 30,
    stand: "On the line of travel, outside the short side, the horse coming towards you.",
    why: "Lines of hooves are counted from straight ahead; from the side they hide one another.",
  },
  {
    ask: "Halts: square, which limb is behind",
    camera: { x: -4, y: 33 },
    track: [
      { x: 10, y: 10 },
      { x: 10, y: 30 },
    ],
    still: true,
    rate: 30,
    stand: "Square to the halt, all four hooves in the picture.",
    why: "Which limb trails is read from one still; the first limb off from the frames after it.",
  },
];
