import type { Limb } from "../ui/limbs";

export type Action =
  | { do: "limb"; limb: Limb }
  | { do: "lift"; limb: Limb }
  | { do: "step"; by: number }
  | { do: "footfall"; to: 1 | -1; also?: boolean }
  | { do: "nudge"; by: 1 | -1; end: "on" | "off" }
  | { do: "zoom"; by: number }
  | { do: "pan"; by: number }
  | { do: Plain };

type Plain =
  | "begin"
  | "end"
  | "play"
  | "speed"
  | "undo"
  | "redo"
  | "finding"
  | "check"
  | "loop"
  | "help"
  | "delete"
  | "whole"
  | "release"
  | "bout"
  | "swap"
  | "relabel"
  | "carry"
  | "take"
  | "takeBout"
  | "look"
  | "ridden"
  | "aid"
  | "askedAid"
  | "letter"
  | "note"
  | "unseen"
  | "spoke"
  | "ghost";

export type Row = {
  /** Name under which a changed key is kept. */
  id: string;
  keys: readonly string[];
  says: string;
  action: Action;
};

export type Group = { title: string; rows: readonly Row[] };

const row = (id: string, keys: string, says: string, action: Action): Row => ({
  id,
  keys: keys.split(" "),
  says,
  action,
});
const plain = (id: Plain, keys: string, says: string) => row(id, keys, says, { do: id });

const limb = (key: string, limb: Limb, says: string): Row[] => [
  row(limb, key, `${says}: tap a footfall, hold the stance`, { do: "limb", limb }),
  row(`lift-${limb}`, `Shift+${key}`, `${says} leaves the ground`, { do: "lift", limb }),
];

const nudge = (by: 1 | -1, end: "on" | "off"): Action => ({ do: "nudge", by, end });

/** The right hand lies on the four hooves as seen from above, nose up; the left moves time. */
export const GROUPS: readonly Group[] = [
  {
    title: "Hooves",
    rows: [
      ...limb("U", "LF", "left fore"),
      ...limb("I", "RF", "right fore"),
      ...limb("J", "LH", "left hind"),
      ...limb("K", "RH", "right hind"),
      plain("carry", "C", "carry on: the next stride is found or foretold; again: take it"),
    ],
  },
  {
    title: "What was found by itself",
    rows: [
      plain("look", "Shift+W", "look at the next that is doubtful"),
      plain("take", "Enter", "take this footfall, and on to the next"),
      plain("takeBout", "Shift+V", "take all of this bout, and on to the next"),
    ],
  },
  {
    title: "Time",
    rows: [
      row("back", "A", "a frame back", { do: "step", by: -1 }),
      row("on", "D", "a frame on", { do: "step", by: 1 }),
      row("back10", "Shift+A", "ten frames back", { do: "step", by: -10 }),
      row("on10", "Shift+D", "ten frames on", { do: "step", by: 10 }),
      row("before", "Q", "footfall before", { do: "footfall", to: -1 }),
      row("next", "E", "next footfall", { do: "footfall", to: 1 }),
      plain("play", "S Space", "play, stop"),
      plain("speed", "W", "speed: 1, ½, ¼, ⅛"),
      plain("finding", "F", "next finding"),
      plain("check", "Shift+F", "next place where the marks look wrong"),
      plain("loop", "O", "play this bout over and over at ¼; again: stop"),
    ],
  },
  {
    title: "The chosen footfalls",
    rows: [
      row("alsoBefore", "Shift+Q", "choose the one before as well", {
        do: "footfall",
        to: -1,
        also: true,
      }),
      row("alsoNext", "Shift+E", "choose the next one as well", {
        do: "footfall",
        to: 1,
        also: true,
      }),
      plain("bout", "V", "choose all of this bout"),
      row("earlier", "N", "a frame earlier", nudge(-1, "on")),
      row("later", "M", "a frame later", nudge(1, "on")),
      row("offEarlier", "Shift+N", "lift-off a frame earlier", nudge(-1, "off")),
      row("offLater", "Shift+M", "lift-off a frame later", nudge(1, "off")),
      plain("relabel", "R", "give to another limb: then its key"),
      plain("swap", "H", "change left and right"),
      plain("delete", "X Delete", "remove"),
      plain("release", "Escape", "choose nothing"),
      plain("undo", "Z", "undo"),
      plain("redo", "Shift+Z", "do again"),
    ],
  },
  {
    title: "What was ridden",
    rows: [
      plain("ridden", "B", "say what was ridden in this bout"),
      plain("aid", "G", "the same aid again, here"),
      plain("askedAid", "Shift+G", "an aid, here"),
      plain("letter", "L", "a letter is passed"),
      plain("note", "T", "a note"),
      plain("unseen", "Y", "hooves out of view from here; again: to here"),
    ],
  },
  {
    title: "The view",
    rows: [
      row("closer", "+ =", "look closer", { do: "zoom", by: 0.5 }),
      row("wider", "-", "look wider", { do: "zoom", by: 2 }),
      row("left", ",", "look earlier", { do: "pan", by: -0.5 }),
      row("right", ".", "look later", { do: "pan", by: 0.5 }),
      plain("whole", "0", "the whole clip"),
      plain("spoke", "P", "wheel: this stride alone, or all of the bout"),
      plain("ghost", "Shift+P", "another bout behind the wheel"),
      plain("begin", "1", "the clip begins here"),
      plain("end", "2", "the clip ends here"),
      plain("help", "?", "these keys, and to change them"),
    ],
  },
];

const ROWS: readonly Row[] = GROUPS.flatMap((g) => g.rows);

/** Keys that the coach has changed, by the name of what they do. */
export type Changed = Readonly<Record<string, string>>;

/** Which key does what. */
export class KeyMap {
  private readonly byKey: ReadonlyMap<string, Action>;
  private readonly changed: Changed;

  constructor(changed: Changed = {}) {
    this.changed = changed;
    this.byKey = new Map(
      ROWS.flatMap((r) => this.keysOf(r).map((key) => [key, r.action] as const)),
    );
  }

  keysOf(row: Row): readonly string[] {
    const own = this.changed[row.id];
    return own === undefined ? row.keys : [own];
  }

  /** The first key of an action's row. */
  keyFor(id: string): string {
    const row = ROWS.find((r) => r.id === id);
    return row ? (this.keysOf(row)[0] ?? "") : "";
  }

  /** What a key press asks for. */
  actionOf(e: KeyboardEvent): Action | undefined {
    const key = keyName(e);
    return key === undefined ? undefined : this.byKey.get(key);
  }

  /** The limb whose key was let go, whether Shift is down or not. */
  limbOf(e: KeyboardEvent): Limb | undefined {
    const action = this.byKey.get(keyName(e, false) ?? "");
    return action?.do === "limb" ? action.limb : undefined;
  }

  /** The same keys with one changed. A key does one thing: whoever had it takes the other's. */
  with(row: Row, key: string): Changed {
    const out: Record<string, string> = { ...this.changed, [row.id]: key };
    const had = ROWS.find((r) => r.id !== row.id && this.keysOf(r).includes(key));
    if (had) out[had.id] = this.keysOf(row)[0] ?? "";
    return out;
  }
}

/** The name of a pressed key. Letters count by what is printed on the key. */
export function keyName(e: KeyboardEvent, withShift = true): string | undefined {
  if (e.ctrlKey || e.metaKey || e.altKey) return undefined;
  if (["Shift", "Control", "Alt", "Meta", "Tab", "CapsLock"].includes(e.key)) return undefined;
  const key = e.key === " " ? "Space" : e.key.length === 1 ? e.key.toUpperCase() : e.key;
  const isLetter = key.length === 1 && key.toLowerCase() !== key;
  return isLetter && e.shiftKey && withShift ? `Shift+${key}` : key;
}

export const DEFAULT_KEYS = new KeyMap();
