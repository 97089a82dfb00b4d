import type { Schemas } from "../api/client";

type Spot = Schemas["Spot"];

/** What is to be drawn, as the form holds it. */
export type Wish = {
  arena: Schemas["Size"];
  kind: "circle" | "line" | "serpentine" | "spiral";
  from: string;
  to: string;
  at_m: number;
  side: "left" | "right";
  diameter_m: number;
  loops: number;
  small_m: number;
  rounds: number;
  horse: number | null;
  counted: number | null;
  every: number;
  changes: number;
};

export const FIRST: Wish = {
  arena: { width_m: 20, length_m: 60 },
  kind: "circle",
  from: "F",
  to: "H",
  at_m: 26,
  side: "right",
  diameter_m: 10,
  loops: 3,
  small_m: 10,
  rounds: 3,
  horse: null,
  counted: null,
  every: 4,
  changes: 5,
};

/** Lines that are ridden often. Quarter lines lie half-way between the centre line and the track. */
export function linesOf({
  width_m: w,
  length_m: l,
}: Schemas["Size"]): readonly [string, string, string][] {
  const own: [string, string, string][] = [
    ["diagonal F to H", "F", "H"],
    ["diagonal M to K", "M", "K"],
    ["diagonal K to M", "K", "M"],
    ["diagonal H to F", "H", "F"],
    ["centre line A to C", "A", "C"],
    ["long side K to H", "K", "H"],
    ["long side M to F", "M", "F"],
  ];
  if (l === 60 && w === 20) {
    own.push(
      ["short diagonal P to S", "P", "S"],
      ["half-pass D to E", "D", "E"],
      ["half-pass D to B", "D", "B"],
      ["half-pass E to G", "E", "G"],
    );
  }
  const quarter = `${w / 4},0`;
  own.push(
    ["quarter line, K’s side", quarter, `${w / 4},${l}`],
    ["quarter line, F’s side", `${(3 * w) / 4},0`, `${(3 * w) / 4},${l}`],
  );
  return w === 20 && (l === 60 || l === 40)
    ? own
    : own.filter(([, a]) => a === "A" || a.includes(","));
}

/** A letter, or a place as `across,along`. */
function spot(text: string): Spot {
  const [x, y] = text.split(",").map(Number);
  return x !== undefined && y !== undefined && text.includes(",") ? [x, y] : text;
}

/** What the server is asked. */
export function asked(wish: Wish): Schemas["Asked"] {
  const { arena, from, to, side } = wish;
  const line = { from: spot(from), to: spot(to) };
  const figure: Schemas["FigureAsked"] =
    wish.kind === "line"
      ? { kind: "line", ...line }
      : wish.kind === "circle"
        ? { kind: "circle", ...line, at_m: wish.at_m, side, diameter_m: wish.diameter_m }
        : wish.kind === "serpentine"
          ? { kind: "serpentine", loops: wish.loops, first: side }
          : {
              kind: "spiral",
              middle: [arena.width_m / 2, wish.diameter_m / 2],
              from_m: wish.diameter_m,
              to_m: wish.small_m,
              rounds: wish.rounds,
              side,
            };
  const row = wish.kind === "line" ? { every: wish.every, count: wish.changes } : null;
  return { arena, figure, horse: wish.horse, counted: wish.counted, row };
}
