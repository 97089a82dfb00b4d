import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import { inWords, type Schemas } from "../api/client";
import { ownQuery } from "../api/queries";
import { inFull } from "../ui/dates";
import { useMe } from "../ui/me";
import { Notice } from "../ui/notice";
import { Yours } from "./yours";

/** What a rider sees: reports and films of their own horses. */
export function OwnPage() {
  const me = useMe();
  const own = useQuery(ownQuery);
  return (
    <main className="mx-auto max-w-[860px] px-6 pt-4 pb-16">
      <header className="border-ink border-b-2 pb-3">
        <p className="text-soft text-sm">Umlauf, {me.name}</p>
        <h1 className="mt-1 text-[1.75rem] leading-tight font-medium">
          {own.data?.headline ?? (own.isError ? "Your horses cannot be read." : "Opening …")}
        </h1>
      </header>
      {own.isError && <Notice text={inWords(own.error)} />}
      {own.data?.horses.map((horse) => (
        <section key={horse.id} aria-label={horse.name} className="mt-5">
          <h2 className="text-[1.3rem] font-medium">{horse.name}</h2>
          {horse.sessions.length === 0 && <p className="text-soft">Nothing was ridden yet.</p>}
          <ul>
            {horse.sessions.map((session) => (
              <Session key={session.id} session={session} />
            ))}
          </ul>
        </section>
      ))}
      <Yours />
    </main>
  );
}

function Session({ session }: { session: Schemas["OwnSession"] }) {
  const [shown, setShown] = useState<number | null>(null);
  return (
    <li className="border-line border-b py-2">
      <div className="flex flex-wrap items-baseline gap-x-5">
        <span className="w-40 font-medium">{inFull(session.date)}</span>
        <a
          className="text-clay inline-flex min-h-11 items-center underline underline-offset-3"
          href={`/api/reports/session/${session.id}?for=rider`}
          target="_blank"
          rel="noreferrer"
        >
          Report
        </a>
      </div>
      <ul>
        {session.films.map((f) => (
          <Film
            key={f.clip}
            film={f}
            open={f.clip === shown}
            onOpen={(open) => setShown(open ? f.clip : null)}
          />
        ))}
      </ul>
    </li>
  );
}

type FilmProps = {
  film: Schemas["OwnFilm"];
  open: boolean;
  onOpen: (open: boolean) => void;
};

function Film({ film, open, onOpen }: FilmProps) {
  const ready = typeof film.media === "string";
  return (
    <li>
      <div className="flex flex-wrap items-baseline gap-x-5">
        <button
          type="button"
          disabled={!ready}
          aria-expanded={open}
          onClick={() => onOpen(!open)}
          className="text-clay disabled:text-soft min-h-11 w-40 truncate text-left underline underline-offset-3 disabled:no-underline"
        >
          {film.name}
        </button>
        <span className="text-soft w-12 text-right text-sm">{film.length_s.toFixed(0)} s</span>
        <span className="min-w-0 grow basis-64">
          {film.headline}
          {!ready && <span className="text-soft"> Not to be shown yet.</span>}
        </span>
      </div>
      {open && film.media && (
        <video
          src={film.media}
          aria-label={`Film ${film.name}`}
          controls
          playsInline
          autoPlay
          muted
          className="mt-1 max-h-[70vh] w-full bg-black"
        />
      )}
    </li>
  );
}
