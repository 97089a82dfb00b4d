import { memo } from "react";
import { Link } from "react-router";

import type { Schemas } from "../api/client";
import { inFull } from "../ui/dates";
import { ClipSettings } from "./clip-settings";
import type { DeskState, DeskStore } from "./clip-store";
import { isOpen } from "./suggestions";

type Props = { clip: Schemas["ClipView"]; store: DeskStore; state: DeskState };

/** What was found, of whom, and whether it is safe on disk. */
export const DeskHead = memo(function DeskHead({ clip, store, state }: Props) {
  return (
    <header className="flex items-start gap-6">
      <div className="min-w-0 grow">
        <h1
          className={`truncate leading-tight font-medium ${state.marks.some(isOpen) ? "text-[1.25rem]" : "text-[1.5rem]"}`}
          aria-live="polite"
        >
          {first(state)}
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
      <SaveState state={state} store={store} proxy={clip.proxy} />
    </header>
  );
});

/** What is known of the clip; of what was found by itself, that nobody has taken it yet. */
function first({ desk, marks }: DeskState): string {
  const { headline } = desk.analysis;
  return desk.found && marks.some(isOpen) ? `${desk.found.says}. ${headline}` : headline;
}

export function SaveState({ state, store, proxy }: SaveProps) {
  const { unsaved, aside, trouble } = state;
  return (
    <div role="status" className="max-w-80 shrink-0 pt-1 text-right text-sm">
      {aside > 0 ? (
        <p className="text-clay font-medium">
          {changes(aside)} could not be saved. {trouble} Kept in this browser.{" "}
          <Act says="try again" act={() => store.sendAgain()} />{" "}
          <Act says="give up" act={() => void store.letGo()} />
        </p>
      ) : trouble && unsaved > 0 ? (
        <p className="text-clay font-medium">
          {changes(unsaved)} not saved yet. {trouble} Kept here, sent again by itself.
        </p>
      ) : (
        <p className="text-soft">
          {unsaved > 0 ? `saving ${changes(unsaved)}` : "all marks saved"}
        </p>
      )}
      {proxy === "pending" && <p className="text-soft">making a copy that steps faster …</p>}
    </div>
  );
}

type SaveProps = { state: DeskState; store: DeskStore; proxy: string };

const changes = (n: number) => (n === 1 ? "1 change" : `${n} changes`);

function Act({ says, act }: { says: string; act: () => void }) {
  return (
    <button type="button" className="min-h-6 underline underline-offset-3" onClick={act}>
      {says}
    </button>
  );
}
