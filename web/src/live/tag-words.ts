import { useQuery } from "@tanstack/react-query";

import type { Schemas } from "../api/client";
import { vocabularyQuery } from "../api/queries";
import type { Tag } from "./clip-store";

type Ridden = Schemas["Ridden"];
type Choice = Schemas["Choice"];

const NONE: readonly Choice[] = [];

/** Movements by their names in files and in words. */
export function useMovements(): readonly Choice[] {
  return useQuery(vocabularyQuery).data?.movements ?? NONE;
}

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

/** A movement in words, as the server names it. */
export function movementWords(name: string, known: readonly Choice[]): string {
  const tempi = /^tempi-(\d)(?:x(\d+))?$/.exec(name);
  if (tempi) {
    const count = tempi[2] ? `, ${tempi[2]} of them` : "";
    return `changes every ${tempi[1] === "1" ? "stride" : `${tempi[1]} strides`}${count}`;
  }
  const drill = /^drill-(\d+)x(\d+)$/.exec(name);
  if (drill) return `drill ${drill[1]} and ${drill[2]} strides`;
  return known.find(({ id }) => id === name)?.says ?? name;
}

function riddenWords(r: Ridden, known: readonly Choice[]): string {
  const gait = [r.variant, r.gait].filter(Boolean).join(" ");
  const parts = [
    gait,
    r.movement && movementWords(r.movement, known),
    r.rein && `${r.rein} rein`,
    r.lead && `${r.lead} lead asked`,
    r.attempt && `try ${r.attempt}`,
    ...(r.ticks ?? []),
    r.words,
  ];
  return parts.filter(Boolean).join(" · ") || "ridden";
}

/** A tag in a few words. */
export function tagInShort({ what }: Tag, known: readonly Choice[]): string {
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
      return riddenWords(what, known);
    case "still":
      return what.working ? "still: working frame" : "still";
  }
}
