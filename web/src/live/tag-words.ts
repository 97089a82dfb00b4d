import type { Schemas } from "../api/client";
import type { Tag } from "./clip-store";

type Ridden = Schemas["Ridden"];

/** Aids by one key each: the key, the name in files, the words. */
export const AIDS = [
  ["w", "walk", "walk"],
  ["t", "trot", "trot"],
  ["l", "canter-left", "canter, left lead"],
  ["r", "canter-right", "canter, right lead"],
  ["h", "halt", "halt"],
  ["f", "change", "flying change"],
  ["b", "half-halt", "half-halt"],
  ["j", "leg-LH", "leg for the left hind"],
  ["k", "leg-RH", "leg for the right hind"],
  ["s", "sit", "the rider sits (rising trot)"],
] as const;

export const LETTERS = "A K V E S H C M R B P F X D L I G".split(" ");

export const VARIANTS = ["collected", "working", "medium", "extended", "free"];

export const GAITS = [
  ["walk", "walk"],
  ["trot", "trot"],
  ["passage", "passage"],
  ["piaffe", "piaffe"],
  ["canter", "canter"],
  ["gallop", "gallop"],
  ["rein-back", "rein-back"],
  ["flat-walk", "flat walk (gaited)"],
  ["running-walk", "running walk (gaited)"],
  ["fox-trot", "fox-trot (gaited)"],
  ["rack", "rack, tölt (gaited)"],
  ["stepping-pace", "stepping pace (gaited)"],
  ["pace", "pace (gaited)"],
] as const;

/** Movements and figures; those with a plan ask for their numbers. */
export const MOVEMENTS = [
  ["straight", "straight"],
  ["circle-20", "circle of 20 m"],
  ["circle-15", "circle of 15 m"],
  ["circle-10", "circle of 10 m"],
  ["shoulder-in", "shoulder-in"],
  ["travers", "travers"],
  ["renvers", "renvers"],
  ["half-pass", "half-pass"],
  ["leg-yield", "leg-yield"],
  ["counter-canter", "counter-canter"],
  ["tempi", "flying changes every n strides"],
  ["drill", "transition drill"],
  ["forward-back", "forward and back"],
  ["pirouette-half", "half pirouette"],
  ["pirouette-full", "full pirouette"],
] as const;

/** What coaches tick, whatever the movement (common practice). */
export const TICKS = [
  "steady contact",
  "lighter in front",
  "swinging back",
  "straight",
  "answered the leg",
  "above the bit",
  "behind the bit",
  "quarters in",
  "rushed",
  "tense",
];

/** A movement in words. */
export function movementWords(name: string): string {
  const tempi = /^tempi-(\d)(?:x(\d+))?$/.exec(name);
  if (tempi) {
    const count = tempi[2] ? `, ${tempi[2]} of them` : "";
    return `changes every ${tempi[1] === "1" ? "stride" : `${tempi[1]} strides`}${count}`;
  }
  const drill = /^drill-(\d+)x(\d+)$/.exec(name);
  if (drill) return `drill ${drill[1]} and ${drill[2]} strides`;
  return MOVEMENTS.find(([code]) => code === name)?.[1] ?? name;
}

function riddenWords(r: Ridden): string {
  const gait = [r.variant, r.gait].filter(Boolean).join(" ");
  const parts = [
    gait,
    r.movement && movementWords(r.movement),
    r.rein && `${r.rein} rein`,
    r.lead && `${r.lead} lead asked`,
    r.attempt && `try ${r.attempt}`,
    ...(r.ticks ?? []),
    r.words,
  ];
  return parts.filter(Boolean).join(" · ") || "ridden";
}

/** A tag in a few words. */
export function tagInShort({ what }: Tag): string {
  switch (what.kind) {
    case "aid":
      return what.asked;
    case "letter":
      return what.letter;
    case "note":
      return what.text;
    case "unseen":
      return "out of view";
    case "ridden":
      return riddenWords(what);
    case "still":
      return what.working ? "still: working frame" : "still";
  }
}
