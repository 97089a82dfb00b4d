import { useQuery } from "@tanstack/react-query";
import { Link, useNavigate, useSearchParams } from "react-router";

import { api, inWords, type Schemas, taken } from "../api/client";
import { glanceQuery } from "../api/queries";
import { DifferenceTable } from "../ui/difference-table";
import { Drawing } from "../ui/drawing";
import { Screens } from "../ui/screens";
import { Wheel } from "../wheel/wheel";
import { inFull } from "../ui/dates";
import { Footage } from "./footage";
import { Choice } from "../ui/choice";

/** Any two bouts, sessions or reins: footage locked to each other, wheels over one another, and
 * every difference with its interval and one verdict. */
export function BesidePage() {
  const [search] = useSearchParams();
  const query = { a: search.get("a") ?? "", b: search.get("b") ?? "" };
  const read = useQuery({
    queryKey: ["beside", query],
    queryFn: () => taken(api.GET("/api/compare", { params: { query } })),
  });
  if (read.isError) {
    return (
      <main className="mx-auto max-w-xl p-10">
        <h1 className="text-2xl">These two cannot be put side by side.</h1>
        <p className="text-soft mt-2">{inWords(read.error)}</p>
        <Link className="text-clay mt-4 inline-block underline" to="/">
          Back to the yard
        </Link>
      </main>
    );
  }
  const c = read.data;
  if (!c) return <main className="text-soft p-10">Comparing …</main>;
  return (
    <main className="mx-auto max-w-[1240px] px-6 pt-4 pb-16">
      <header className="border-ink border-b-2 pb-3">
        <Screens />
        <h1 className="mt-1 text-[1.6rem] leading-tight font-medium">{c.headline}</h1>
        <p className="text-soft">
          {c.differs.length === 0
            ? "No condition differs."
            : `Conditions that differ: ${c.differs.join("; ")}.`}{" "}
          <Link
            className="text-clay underline underline-offset-3"
            to={`/beside?a=${query.b}&b=${query.a}`}
          >
            Change sides
          </Link>
          {c.reins && (
            <>
              {" · "}
              <Link
                className="text-clay underline underline-offset-3"
                to={`/beside?a=${c.reins[0]}&b=${c.reins[1]}`}
              >
                This session’s two reins
              </Link>
            </>
          )}
          {c.around.map((m) => (
            <span key={m.movement}>
              {" · "}
              <Link
                className="text-clay underline underline-offset-3"
                to={`/beside?a=${m.sides[0]}&b=${m.sides[1]}`}
              >
                before and after the {m.movement}
              </Link>
            </span>
          ))}
        </p>
        {c.size_says && <p>{c.size_says}</p>}
      </header>
      <Footage a={c.a} b={c.b} />
      <section
        aria-label="Wheels over one another"
        className="mt-4 grid grid-cols-[1fr_auto_1fr] items-center gap-6"
      >
        <SideWords side={c.a} faint other={(of) => `/beside?a=${of}&b=${query.b}`} />
        <Drawing name="wheels">
          <Wheel wheel={c.b.wheel ?? null} ghost={c.a.wheel ?? null} size={230} />
        </Drawing>
        <SideWords side={c.b} other={(of) => `/beside?a=${query.a}&b=${of}`} />
      </section>
      <section className="mt-6" aria-label="Differences">
        <h2 className="text-[1.3rem] font-medium">Differences</h2>
        <p className="text-soft text-sm">
          <span className="inline-block first-letter:uppercase">{c.b.short}</span> less {c.a.short},
          with 95 % intervals; the pale band is what is not worth speaking of. Heavy verdicts stand
          after Holm’s adjustment over all figures.
        </p>
        <DifferenceTable rows={c.rows} first={c.a.short} second={c.b.short} name="side-by-side" />
      </section>
    </main>
  );
}

type SideProps = {
  side: Schemas["SideView"];
  faint?: boolean;
  /** The address with this side changed. */
  other: (of: string) => string;
};

function SideWords({ side, faint = false, other }: SideProps) {
  const go = useNavigate();
  const whole = `session:${side.session}:${side.gait}`;
  const session = useQuery(glanceQuery(side.session));
  return (
    <div className={faint ? "text-right" : ""}>
      <p className="text-[1.15rem] font-medium">{side.title}</p>
      <p>{side.short}</p>
      <p className="text-soft">
        {session.data ? inFull(session.data.date) : ""} · {side.bouts}{" "}
        {side.bouts === 1 ? "bout" : "bouts"}, {side.strides} strides
      </p>
      <p>
        <Link
          className="text-clay underline underline-offset-3"
          to={`/clips/${side.shown.clip}?at=${side.shown.start_s}`}
        >
          open its longest bout
        </Link>
        <span className="text-soft">{faint ? " · drawn faint" : ""}</span>
      </p>
      <span className="mt-1 inline-flex items-baseline gap-2">
        <span className="text-soft text-sm">Instead</span>
        <Choice
          look="bare"
          label={`Instead of ${side.title}`}
          value={side.of}
          onChange={(v) => void go(other(v))}
        >
          <option value={whole}>all of the session</option>
          <option value={`${whole}:left`}>left rein</option>
          <option value={`${whole}:right`}>right rein</option>
          {![whole, `${whole}:left`, `${whole}:right`].includes(side.of) &&
            !side.choices.some((b) => side.of === `bout:${b.clip}:${b.place}`) && (
              <option value={side.of}>as chosen: {side.short}</option>
            )}
          {side.choices.map((b) => (
            <option key={`${b.clip} ${b.place}`} value={`bout:${b.clip}:${b.place}`}>
              {b.rein ? `${b.rein} rein, ` : ""}bout at {b.start_s.toFixed(0)} s, {b.strides}{" "}
              strides
            </option>
          ))}
        </Choice>
      </span>
    </div>
  );
}
