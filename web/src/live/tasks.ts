import type { Schemas } from "../api/client";
import { name } from "./names";

type Settings = Schemas["ClipSettings"];

/** Something the coach has done to a clip and the server is to keep. */
export type Task = { readonly id: string } & (
  | { readonly kind: "edit"; readonly edit: Schemas["Edit"] }
  | { readonly kind: "settings"; readonly before: Settings; readonly after: Settings }
  | { readonly kind: "calibration"; readonly calibration: Schemas["Calibration"] }
  /** Sent again, it names the revision it was first sent from: it acts once. */
  | { readonly kind: "undo" | "redo"; readonly revision?: number }
);

/** What is kept of a clip in the browser. */
export type Kept = {
  /** To be sent, in order. */
  readonly waiting: readonly Task[];
  /** What the server could not take, to be offered again. */
  readonly aside: readonly Task[];
};

export const NOTHING_KEPT: Kept = { waiting: [], aside: [] };

/** Settings after what was changed of them; what was not, stays. */
export function settled(settings: Settings, before: Settings, after: Settings): Settings {
  const out: Record<string, unknown> = { ...settings };
  const was = before as Record<string, unknown>;
  for (const [key, value] of Object.entries(after)) {
    if ((was[key] ?? null) !== (value ?? null)) out[key] = value;
  }
  return out as Settings;
}

/** What the browser has kept, also of an earlier version of this page. */
export function readKept(text: string | null): Kept {
  let kept: unknown;
  try {
    kept = JSON.parse(text ?? "null");
  } catch {
    return NOTHING_KEPT;
  }
  // Once only edits were kept, and a tapped mark by its rate alone.
  if (Array.isArray(kept)) {
    const edits = kept as Schemas["Edit"][];
    const waiting = edits.map((edit): Task => ({ id: name(), kind: "edit", edit: today(edit) }));
    return { waiting, aside: [] };
  }
  const { waiting, aside } = (kept ?? {}) as Partial<Kept>;
  return { waiting: waiting ?? [], aside: aside ?? [] };
}

type Former = Schemas["Mark"] & { tap_rate?: number | null };

function today(edit: Schemas["Edit"]): Schemas["Edit"] {
  const mark = (m: Former | null | undefined): Schemas["Mark"] | null => {
    if (!m) return null;
    const { tap_rate, ...rest } = m;
    return typeof tap_rate === "number"
      ? { ...rest, origin: { how: "tapped", rate: tap_rate } }
      : rest;
  };
  const changes = edit.changes.map((c) => ({ before: mark(c.before), after: mark(c.after) }));
  return { ...edit, changes };
}
