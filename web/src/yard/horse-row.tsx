import { Collapsible } from "radix-ui";
import { useState } from "react";
import { Link } from "react-router";

import type { Schemas } from "../api/client";
import { Wheel } from "../wheel/wheel";
import { dayAndMonth } from "../ui/dates";
import { SessionList } from "./session-list";

type Horse = Schemas["HorseLine"];

/** A horse and its wheels over time, newest last, strung on one rail. */
export function HorseRow({ horse, isNew }: { horse: Horse; isNew: boolean }) {
  const [chosen, setOpen] = useState<boolean | null>(null);
  // A new horse's row is open until someone closes it, whichever comes first: the row or the news.
  const open = chosen ?? isNew;
  const clips = horse.sessions
    .flatMap((s) => s.clips.map((clip) => ({ clip, date: s.date })))
    .reverse();
  const latest = clips.findLast(({ clip }) => clip.label);
  const shown = clips.slice(-5);
  return (
    <li className="border-line border-b [contain-intrinsic-size:auto_9.5rem] [content-visibility:auto]">
      <Collapsible.Root open={open} onOpenChange={setOpen}>
        <div className="grid grid-cols-[11rem_minmax(0,1fr)_19rem] items-center gap-5 py-3 max-lg:grid-cols-[9rem_minmax(0,1fr)]">
          <div>
            <h2 className="text-[1.45rem] leading-tight font-medium">
              <Link
                to={`/horses/${horse.id}`}
                className="decoration-clay underline decoration-1 underline-offset-4"
              >
                {horse.name}
              </Link>
            </h2>
            <p className="text-soft text-sm">
              {horse.withers_m ? `${Math.round(horse.withers_m * 100)} cm` : "height not given"}
              {horse.gaited ? " · gaited" : ""}
              {horse.ridden ? <span className="block">{horse.ridden}</span> : null}
            </p>
            <Collapsible.Trigger className="text-clay mt-1 min-h-8 underline underline-offset-3">
              {open ? "Close sessions" : sessionsWord(horse.sessions.length + horse.older_sessions)}
            </Collapsible.Trigger>
          </div>
          <ol className="relative flex items-start gap-5 overflow-x-auto px-1 pt-1">
            {shown.length > 0 && (
              <span aria-hidden className="bg-line absolute inset-x-0 top-[41px] h-px" />
            )}
            {shown.map(({ clip, date }) => (
              <li key={clip.id}>
                <Link
                  to={`/clips/${clip.id}`}
                  className="hover:bg-dune relative flex w-24 flex-col items-center rounded-[3px] pb-1"
                >
                  <span className="bg-sand rounded-full">
                    <Wheel wheel={clip.wheel ?? null} size={76} small />
                  </span>
                  <span className="text-sm">{dayAndMonth(date)}</span>
                  <span className="text-soft w-full truncate text-center text-sm">
                    {clip.label ?? (clip.found > 0 ? "found, to take" : "to be timed")}
                  </span>
                </Link>
              </li>
            ))}
            {shown.length === 0 && (
              <li className="text-soft self-center">
                No footage yet. Open the sessions and add a clip.
              </li>
            )}
          </ol>
          <div className="max-lg:col-span-2">
            <p>
              {latest
                ? latest.clip.headline
                : clips.length > 0
                  ? clips.some((c) => c.clip.found > 0)
                    ? "Footfalls were found by themselves: open the clip and take them."
                    : "Filmed, not timed: open the clip and mark the first footfalls."
                  : ""}
            </p>
            {(horse.cautions || horse.returning) && (
              <p className="border-clay mt-1 border-l-3 pl-2 text-sm">
                {[horse.returning, horse.cautions].filter(Boolean).join(". ")}
              </p>
            )}
          </div>
        </div>
        <Collapsible.Content>
          <SessionList horse={horse} />
        </Collapsible.Content>
      </Collapsible.Root>
    </li>
  );
}

function sessionsWord(n: number): string {
  if (n === 0) return "Add a session";
  return n === 1 ? "1 session" : `${n} sessions`;
}
