import type { Schemas } from "../api/client";
import { Choice } from "../ui/choice";
import type { DeskStore } from "./clip-store";

type Settings = Schemas["ClipSettings"];

/** Rein, lead asked for and slow motion, each a word to choose. Marks stay as they are, and every
 * choice can be undone. */
export function ClipSettings({ settings, store }: { settings: Settings; store: DeskStore }) {
  const now = settings;
  const set = (change: Partial<Settings>) => store.changeSettings(change);
  return (
    <>
      <Choice
        look="line"
        label="Rein"
        value={now.rein ?? ""}
        onChange={(rein) => set({ rein: rein || null })}
      >
        <option value="">rein not given</option>
        <option value="left">left rein</option>
        <option value="right">right rein</option>
      </Choice>
      <Choice
        look="line"
        label="Lead asked for"
        value={now.asked_lead ?? ""}
        onChange={(lead) => set({ asked_lead: lead || null })}
      >
        <option value="">no lead asked</option>
        <option value="left">left lead asked</option>
        <option value="right">right lead asked</option>
      </Choice>
      <Choice
        look="line"
        label="Slow motion"
        value={String(now.slow_factor)}
        onChange={(f) => set({ slow_factor: Number(f), slow_confirmed: true })}
      >
        {[1, 2, 4, 8].includes(now.slow_factor) ? null : (
          <option value={now.slow_factor}>slow motion {now.slow_factor}×</option>
        )}
        <option value="1">normal speed</option>
        <option value="2">slow motion 2×</option>
        <option value="4">slow motion 4×</option>
        <option value="8">slow motion 8×</option>
      </Choice>
    </>
  );
}
