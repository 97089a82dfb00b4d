import { useQuery } from "@tanstack/react-query";
import { Link, useParams } from "react-router";

import { inWords, type Schemas } from "../api/client";
import { glanceQuery, yardQuery } from "../api/queries";
import { plusMinus } from "../ui/plus-minus";
import { FindingLine, Tries } from "../ui/findings";
import { Reports } from "../ui/reports";
import { SaveTable, threeCells } from "../ui/save-table";
import { Screens } from "../ui/screens";
import { inFull } from "../ui/dates";
import { Felt } from "./felt";

/** A session at a glance: what was ridden per rein, what matters, felt beside measured. */
export function SessionPage() {
  const session = Number(useParams().session);
  const glance = useQuery(glanceQuery(session));
  const yard = useQuery(yardQuery);
  const line = yard.data?.horses.flatMap((h) => h.sessions).find((s) => s.id === session);
  if (glance.isError) {
    return (
      <main className="mx-auto max-w-xl p-10">
        <h1 className="text-2xl">This session cannot be opened.</h1>
        <p className="text-soft mt-2">{inWords(glance.error)}</p>
        <Link className="text-clay mt-4 inline-block underline" to="/">
          Back to the yard
        </Link>
      </main>
    );
  }
  const g = glance.data;
  if (!g) return <main className="text-soft p-10">Reading the session …</main>;
  return (
    <main className="mx-auto max-w-[1080px] px-6 pt-4 pb-16">
      <header className="border-ink border-b-2 pb-3">
        <Screens />
        <h1 className="mt-1 text-[1.75rem] leading-tight font-medium">{g.headline}</h1>
        <p className="text-soft">
          <Link className="text-clay underline underline-offset-3" to={`/horses/${g.horse_id}`}>
            {g.horse}
          </Link>{" "}
          · {inFull(g.date)}
          {line?.note ? ` · ${line.note}` : ""}
        </p>
        <Reports way={`/api/reports/session/${session}?for=`} session={session} />
      </header>
      <Matters matters={g.matters} timed={g.ridden.length > 0} />
      <LookedFor lines={g.looked_for} open={g.matters.length === 0} />
      <Ridden ridden={g.ridden} />
      <Stills stills={g.stills} />
      {line && <Felt session={line} matters={g.matters} ridden={g.ridden} />}
      {line && <Clips clips={line.clips} />}
    </main>
  );
}

function Stills({ stills }: { stills: readonly Schemas["SessionStill"][] }) {
  if (stills.length === 0) return null;
  return (
    <section className="mt-6">
      <h2 className="text-[1.3rem] font-medium">Stills</h2>
      <ul className="mt-1">
        {stills.map((s) => (
          <li key={`${s.clip} ${s.at_us}`} className="border-line border-b py-1.5">
            <Link
              to={`/clips/${s.clip}/ground?still=${s.at_us}`}
              className="hover:bg-dune -mx-1 flex items-baseline gap-3 rounded-[3px] px-1"
            >
              <span className="text-clay underline underline-offset-3">
                {s.clip_name}, {(s.at_us / 1e6).toFixed(2)} s
              </span>
              <span>
                {s.working ? "This horse’s working frame." : s.says.slice(0, 2).join(" ")}
              </span>
            </Link>
          </li>
        ))}
      </ul>
    </section>
  );
}

function Matters({ matters, timed }: { matters: readonly Schemas["Matter"][]; timed: boolean }) {
  if (matters.length === 0) {
    return timed ? null : <p className="text-soft mt-5">No finding yet: time a few strides.</p>;
  }
  return (
    <section className="mt-5">
      <h2 className="text-[1.3rem] font-medium">What matters most</h2>
      <ol className="mt-1">
        {matters.map((m, k) => (
          <li key={m.finding.code} className="border-line grid grid-cols-[2rem_1fr] border-b py-2">
            <span className="text-soft font-mono">{k + 1}</span>
            <div>
              <FindingLine
                finding={m.finding}
                onChoose={() => window.location.assign(`/clips/${m.clip}`)}
              />
              <div className="flex items-baseline gap-4 text-[0.95rem]">
                <Link className="text-clay underline underline-offset-3" to={`/clips/${m.clip}`}>
                  {m.clip_name}, {m.finding.start_s.toFixed(1)} s
                </Link>
                {m.times > 1 && <span className="text-soft">found {m.times} times</span>}
                {m.finding.try.length > 0 && <Tries tries={m.finding.try} />}
              </div>
              {m.finding.caution && (
                <p className="border-clay mt-1 border-l-3 pl-2 text-sm">{m.finding.caution}</p>
              )}
            </div>
          </li>
        ))}
      </ol>
    </section>
  );
}

/** What was looked for and how large it would have had to be: nothing found is an answer too. */
function LookedFor({ lines, open }: { lines: readonly Schemas["LookedFor"][]; open: boolean }) {
  if (lines.length === 0) return null;
  const table = (
    <table className="mt-1 w-full max-w-[820px]">
      <thead className="text-soft text-left text-sm">
        <tr>
          <th className="font-normal">looked for</th>
          <th className="font-normal">in</th>
          <th className="text-right font-normal">told from</th>
        </tr>
      </thead>
      <tbody>
        {lines.map((l) => (
          <tr key={l.what} className="border-line border-b">
            <td className="py-1">{l.what}</td>
            <td className="text-soft">{l.places}</td>
            <td className="text-right font-mono text-[0.9rem]">
              {l.told_from ?? <span className="text-soft font-sans">each one</span>}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
  return (
    <section className="mt-5">
      {open ? (
        <>
          <h2 className="text-[1.3rem] font-medium">Looked for, and not found</h2>
          {table}
        </>
      ) : (
        <details>
          <summary className="text-clay min-h-9 cursor-pointer underline underline-offset-3">
            All that was looked for, and from what size on it would have been told
          </summary>
          {table}
        </details>
      )}
    </section>
  );
}

function Ridden({ ridden }: { ridden: readonly Schemas["RiddenLine"][] }) {
  if (ridden.length === 0) return null;
  return (
    <section className="mt-5">
      <div className="flex items-baseline gap-2">
        <h2 className="grow text-[1.3rem] font-medium">What was ridden</h2>
        <SaveTable
          name="what-was-ridden"
          columns={["gait", "rein", "bouts", "strides", "seconds", "tempo", "tempo_lo", "tempo_hi"]}
          rows={() =>
            ridden.map((r) => [
              ...[r.label, r.rein, r.bouts, r.strides, r.length_s],
              ...threeCells(r.tempo),
            ])
          }
        />
      </div>
      <table className="mt-1 w-full">
        <thead className="text-soft text-left text-sm">
          <tr>
            <th className="font-normal">gait</th>
            <th className="font-normal">rein</th>
            <th className="text-right font-normal">bouts</th>
            <th className="text-right font-normal">strides</th>
            <th className="text-right font-normal">time, s</th>
            <th className="text-right font-normal">tempo, strides/min</th>
          </tr>
        </thead>
        <tbody>
          {ridden.map((r) => (
            <tr key={`${r.label}${r.rein ?? ""}`} className="border-line border-t">
              <th scope="row" className="py-1 text-left font-normal">
                {r.label}
              </th>
              <td>{r.rein ?? "not given"}</td>
              <td className="text-right font-mono text-[0.9rem]">{r.bouts}</td>
              <td className="text-right font-mono text-[0.9rem]">{r.strides}</td>
              <td className="text-right font-mono text-[0.9rem]">{r.length_s.toFixed(1)}</td>
              <td className="text-right font-mono text-[0.9rem]">
                {r.tempo ? plusMinus(r.tempo, 1, 1) : "–"}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

function Clips({ clips }: { clips: readonly Schemas["ClipLine"][] }) {
  return (
    <section className="mt-5">
      <h2 className="text-[1.3rem] font-medium">Clips</h2>
      <ul>
        {clips.map((clip) => (
          <li key={clip.id} className="border-line border-b">
            <Link
              to={`/clips/${clip.id}`}
              className="hover:bg-dune flex min-h-10 items-baseline gap-4 px-1 py-1.5"
            >
              <span className="w-48 truncate">{clip.name}</span>
              <span className="text-soft w-32 text-sm">{clip.footfalls} footfalls</span>
              <span className="grow">{clip.headline}</span>
            </Link>
          </li>
        ))}
        {clips.length === 0 && <li className="text-soft">No footage in this session yet.</li>}
      </ul>
    </section>
  );
}
