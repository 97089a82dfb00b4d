import { memo } from "react";
import { Link } from "react-router";

import type { Schemas } from "../api/client";
import { inFull } from "../ui/dates";
import { ClipSettings } from "../desk/clip-settings";
import type { DeskState, DeskStore } from "./clip-store";

type Props = { clip: Schemas["ClipView"]; store: DeskStore; state: DeskState };

/** What was found, of whom, and whether it is safe on disk. */
export const DeskHead = memo(function DeskHead({ clip, store, state }: Props) {
  return (
    <header className="flex items-start gap-6">
      <div className="min-w-0 grow">
        <h1 className="truncate text-[1.5rem] leading-tight font-medium" aria-live="polite">
          {state.desk.analysis.headline}
        </h1>
        <div className="text-soft flex flex-wrap items-baseline gap-x-3 text-sm">
          <span>
            <Link className="text-clay underline underline-offset-3" to="/">
              Yard
            </Link>{" "}
            · {clip.horse_name ?? "horse not told yet"} ·{" "}
            {clip.date ? inFull(clip.date) : clip.name} ·{" "}
            <Link
              className="text-clay underline underline-offset-3"
              to={`/clips/${clip.id}/ground`}
            >
              Ground desk
            </Link>
          </span>
          <ClipSettings settings={state.desk.settings} store={store} />
          <span>{state.desk.timing_says}</span>
        </div>
      </div>
      <SaveState state={state} proxy={clip.proxy} />
    </header>
  );
});

export function SaveState({ state, proxy }: { state: DeskState; proxy: string }) {
  const edits = state.unsaved === 1 ? "1 change" : `${state.unsaved} changes`;
  return (
    <div role="status" className="shrink-0 pt-1 text-right text-sm">
      {state.trouble && state.unsaved > 0 ? (
        <p className="text-clay max-w-72 font-medium">
          {edits} not saved yet. {state.trouble} Kept here, sent again by itself.
        </p>
      ) : (
        <p className="text-soft">{state.unsaved > 0 ? `saving ${edits}` : "all marks saved"}</p>
      )}
      {proxy === "pending" && <p className="text-soft">making a copy that steps faster …</p>}
    </div>
  );
}
