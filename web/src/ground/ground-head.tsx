import { Link } from "react-router";

import type { Schemas } from "../api/client";
import { SaveState } from "../live/clip-head";
import type { DeskState, DeskStore } from "../live/clip-store";
import { inFull } from "../ui/dates";
import type { Ground } from "./aim";

type Props = { clip: Schemas["ClipView"]; ground: Ground; state: DeskState; store: DeskStore };

/** What the ground tells, of whom, and whether it is safe on disk. */
export function GroundHead({ clip, ground, state, store }: Props) {
  const way = "text-clay underline underline-offset-3";
  return (
    <header className="flex items-start gap-6">
      <div className="min-w-0 grow">
        <h1 className="text-[1.4rem] leading-tight font-medium" aria-live="polite">
          {ground.headline}
        </h1>
        <p className="text-soft text-sm">
          <Link className={way} to="/">
            Yard
          </Link>{" "}
          · {clip.horse_name ?? "horse not told yet"} · {clip.date ? inFull(clip.date) : clip.name}{" "}
          ·{" "}
          <Link className={way} to={`/clips/${clip.id}`}>
            Timing desk
          </Link>{" "}
          ·{" "}
          <Link className={way} to="/arena">
            Arena figures
          </Link>
        </p>
      </div>
      <SaveState state={state} store={store} proxy={clip.proxy} />
    </header>
  );
}
