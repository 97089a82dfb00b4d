import type { Limb } from "../ui/limbs";

export type Action =
  | { do: "limb"; limb: Limb }
  | { do: "lift"; limb: Limb }
  | { do: "step"; by: number }
  | { do: "footfall"; to: 1 | -1 }
  | { do: "nudge"; by: 1 | -1; end: "on" | "off" }
  | { do: "zoom"; by: number }
  | {
      do:
        | "begin"
        | "end"
        | "play"
        | "speed"
        | "undo"
        | "redo"
        | "finding"
        | "help"
        | "delete"
        | "whole"
        | "release";
    };

type Row = { keys: string[]; says: string; action: Action };

const limb = (key: string, limb: Limb, says: string): Row[] => [
  { keys: [key], says: `${says}: tap a footfall, hold the stance`, action: { do: "limb", limb } },
  { keys: [`Shift+${key}`], says: `${says} leaves the ground`, action: { do: "lift", limb } },
];

/** The right hand lies on the four hooves as seen from above, nose up; the left moves time. */
export const KEYS: readonly Row[] = [
  ...limb("U", "LF", "left fore"),
  ...limb("I", "RF", "right fore"),
  ...limb("J", "LH", "left hind"),
  ...limb("K", "RH", "right hind"),
  { keys: ["A"], says: "a frame back", action: { do: "step", by: -1 } },
  { keys: ["D"], says: "a frame on", action: { do: "step", by: 1 } },
  { keys: ["Shift+A"], says: "ten frames back", action: { do: "step", by: -10 } },
  { keys: ["Shift+D"], says: "ten frames on", action: { do: "step", by: 10 } },
  { keys: ["Q"], says: "footfall before", action: { do: "footfall", to: -1 } },
  { keys: ["E"], says: "next footfall", action: { do: "footfall", to: 1 } },
  { keys: ["S", "Space"], says: "play, stop", action: { do: "play" } },
  { keys: ["W"], says: "speed: 1, ½, ¼, ⅛", action: { do: "speed" } },
  { keys: ["Z"], says: "undo", action: { do: "undo" } },
  { keys: ["Shift+Z"], says: "do again", action: { do: "redo" } },
  { keys: ["N"], says: "chosen footfall a frame earlier", action: nudge(-1, "on") },
  { keys: ["M"], says: "chosen footfall a frame later", action: nudge(1, "on") },
  { keys: ["Shift+N"], says: "its lift-off a frame earlier", action: nudge(-1, "off") },
  { keys: ["Shift+M"], says: "its lift-off a frame later", action: nudge(1, "off") },
  { keys: ["X", "Delete"], says: "remove the chosen footfall", action: { do: "delete" } },
  { keys: ["F"], says: "next finding", action: { do: "finding" } },
  { keys: ["+", "="], says: "look closer", action: { do: "zoom", by: 0.5 } },
  { keys: ["-"], says: "look wider", action: { do: "zoom", by: 2 } },
  { keys: ["0"], says: "the whole clip", action: { do: "whole" } },
  { keys: ["1"], says: "the clip begins here", action: { do: "begin" } },
  { keys: ["2"], says: "the clip ends here", action: { do: "end" } },
  { keys: ["Escape"], says: "choose nothing", action: { do: "release" } },
  { keys: ["?"], says: "these keys", action: { do: "help" } },
];

function nudge(by: 1 | -1, end: "on" | "off"): Action {
  return { do: "nudge", by, end };
}

const byKey = new Map(KEYS.flatMap((row) => row.keys.map((key) => [key, row.action] as const)));

/** What a key press asks for. Letters count by what is printed on the key. */
export function actionOf(e: KeyboardEvent): Action | undefined {
  if (e.ctrlKey || e.metaKey || e.altKey) return undefined;
  const key = e.key === " " ? "Space" : e.key.length === 1 ? e.key.toUpperCase() : e.key;
  const isLetter = key.length === 1 && key >= "A" && key <= "Z";
  return byKey.get(isLetter && e.shiftKey ? `Shift+${key}` : key);
}

/** The key of a limb. */
export function keyOf(limb: Limb): string {
  const row = KEYS.find((r) => r.action.do === "limb" && r.action.limb === limb);
  return row?.keys[0] ?? "";
}
