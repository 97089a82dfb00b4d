import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { Link, useParams, useSearchParams } from "react-router";

import { api, inWords, type Schemas, taken } from "../api/client";
import { recordKey } from "../api/queries";
import { Reports } from "../ui/reports";
import { Screens } from "../ui/screens";
import { inFull } from "../ui/dates";
import { Card } from "./card";
import { DifferenceTable } from "../ui/difference-table";
import { FILTERS, type FilterName } from "./filter-names";
import { Filters } from "./filters";
import { Gaps } from "./gaps";
import { HorseCard } from "./horse-card";
import { Milestones } from "./milestones";
import { Movements } from "./movements";
import { NextRide } from "./next";
import { SessionPair } from "./session-pair";
import { SinceThen } from "./since";
import { WorkLog } from "./work";

/** The filters as the server reads them. */
function asked({ rate, ...rest }: Partial<Record<FilterName, string>>) {
  return rate ? { ...rest, rate: Number(rate) } : rest;
}

/** A horse against itself: cards, trends, reins, milestones. */
export function RecordPage() {
  const horse = Number(useParams().horse);
  const [search, setSearch] = useSearchParams();
  const query = Object.fromEntries(
    FILTERS.flatMap((f) => {
      const value = search.get(f);
      return value ? [[f, value] as const] : [];
    }),
  );
  const read = useQuery({
    queryKey: [...recordKey(horse), query],
    placeholderData: keepPreviousData,
    queryFn: () =>
      taken(
        api.GET("/api/horses/{horse}/record", {
          params: { path: { horse }, query: asked(query) },
        }),
      ),
  });
  if (read.isError) {
    return (
      <main className="mx-auto max-w-xl p-10">
        <h1 className="text-2xl">This horse’s record cannot be opened.</h1>
        <p className="text-soft mt-2">{inWords(read.error)}</p>
        <Link className="text-clay mt-4 inline-block underline" to="/">
          Back to the yard
        </Link>
      </main>
    );
  }
  const r = read.data;
  if (!r) return <main className="text-soft p-10">Reading the record …</main>;
  const set = (name: FilterName, value: string | null) => {
    const next = new URLSearchParams(search);
    if (value) next.set(name, value);
    else next.delete(name);
    setSearch(next, { replace: true });
  };
  return (
    <main className="mx-auto max-w-[1240px] px-6 pt-4 pb-16">
      <header className="border-ink border-b-2 pb-3">
        <Screens />
        <h1 className="mt-1 text-[1.6rem] leading-tight font-medium" aria-live="polite">
          {r.headline}
        </h1>
        <p className="text-soft">
          {r.name} · {r.sessions.length} {r.sessions.length === 1 ? "session" : "sessions"}
          {r.sessions[0] ? ` since ${inFull(r.sessions[0].date)}` : ""}
          {r.now.says ? ` · ${r.now.says}` : ""}
          {r.stories.filter((s) => !r.headline.startsWith(s)).map((s) => ` · ${s}`)}
        </p>
        {r.gaits.length > 0 && (
          <Reports
            way={`/api/reports/horse/${horse}/`}
            query={`?${new URLSearchParams({ ...query, gait: r.gait }).toString()}`}
            table={`/api/horses/${horse}/record.csv?${new URLSearchParams({ ...query, gait: r.gait }).toString()}`}
          />
        )}
      </header>
      <HorseCard record={r} />
      {r.gaits.length === 0 ? (
        <p className="text-soft py-6">
          Add a session and footage in the{" "}
          <Link className="text-clay underline underline-offset-3" to="/">
            yard
          </Link>
          , open the clip and mark a few strides; the card begins with the first bout.
        </p>
      ) : (
        <>
          <SinceThen record={r} />
          {r.now.returning && (
            <p className="border-clay mt-2 border-l-3 pl-2">{r.now.returning}.</p>
          )}
          <Filters record={r} query={query} onSet={set} />
          <Card record={r} />
          <NextRide record={r} />
          <div className="mt-8 grid gap-x-10 gap-y-8 lg:grid-cols-2">
            <div className="flex flex-col gap-8">
              <Pair
                title="Left rein against right"
                first="left"
                second="right"
                rows={r.reins}
                record={r}
              />
              {r.leads.length > 0 && (
                <Pair
                  title="Left lead against right"
                  first="left"
                  second="right"
                  rows={r.leads}
                  record={r}
                />
              )}
              <Milestones record={r} />
            </div>
            <div className="flex flex-col gap-8">
              <Gaps record={r} />
              <Movements record={r} />
              <WorkLog record={r} />
            </div>
          </div>
          <p className="border-clay mt-6 border-l-3 pl-2 text-sm">
            A new difference between left and right, uneven steps or reluctance: stop, and have a
            vet look. Umlauf times footfalls; it does not diagnose lameness.
          </p>
          <SessionPair record={r} />
        </>
      )}
    </main>
  );
}

type PairProps = {
  title: string;
  first: string;
  second: string;
  rows: readonly Schemas["ComparedRow"][];
  record: Schemas["Record"];
};

function Pair({ title, first, second, rows, record }: PairProps) {
  return (
    <section aria-label={title}>
      <h2 className="text-[1.3rem] font-medium">{title}</h2>
      {rows.length === 0 ? (
        <p className="text-soft">Both sides need a timed bout whose rein was said.</p>
      ) : (
        <>
          <p className="text-soft text-sm">
            The last {record.recent} sessions
            {record.variant && record.variant !== "any" ? `, ${record.variant}` : ""}: right less
            left, with its 95 % interval.
          </p>
          <DifferenceTable
            rows={rows}
            first={first}
            second={second}
            name={`${record.name}-${title.toLowerCase().replaceAll(" ", "-")}`}
          />
        </>
      )}
    </section>
  );
}
