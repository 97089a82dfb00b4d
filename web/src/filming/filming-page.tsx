import { useState } from "react";

import { Screens } from "../ui/screens";
import { Plan } from "./plan";
import { halfFrame, QUESTIONS } from "./questions";

/** Where to stand and which frame rate is enough, by what the coach wants to know. */
export function FilmingPage() {
  const [chosen, setChosen] = useState(0);
  const question = QUESTIONS[chosen] ?? QUESTIONS[0];
  if (!question) return null;
  return (
    <main className="mx-auto max-w-[1240px] px-6 pt-4 pb-16">
      <header className="border-ink border-b-2 pb-3">
        <Screens />
        <h1 className="mt-1 text-[1.75rem] leading-tight font-medium" aria-live="polite">
          {question.stand} {question.rate} frames a second or more.
        </h1>
      </header>
      <div className="mt-4 grid grid-cols-[21rem_minmax(0,1fr)] gap-8 max-lg:grid-cols-1">
        <div>
          <h2 className="text-soft text-sm">What do you want to know?</h2>
          <ul className="mt-1">
            {QUESTIONS.map((q, k) => (
              <li key={q.ask}>
                <button
                  type="button"
                  aria-pressed={k === chosen}
                  onClick={() => setChosen(k)}
                  className={`flex min-h-11 w-full items-baseline gap-3 rounded-[3px] px-2 py-2 text-left ${k === chosen ? "bg-ink text-sand" : "hover:bg-dune"}`}
                >
                  <span className="grow">{q.ask}</span>
                  <span className="font-mono text-sm whitespace-nowrap">{q.rate}/s</span>
                </button>
              </li>
            ))}
          </ul>
        </div>
        <div>
          <Plan question={question} />
          <p className="mt-3 max-w-[68ch]">{question.why}</p>
          <p className="text-soft mt-1 max-w-[68ch] text-sm">
            At {question.rate} frames a second a footfall lies within ±
            {halfFrame(question.rate).toFixed(1)} ms of its mark. Slow motion is welcome: Umlauf
            asks how much slower the file runs.
          </p>
        </div>
      </div>
      <Care />
    </main>
  );
}

function Care() {
  return (
    <div className="mt-8 grid max-w-[1100px] grid-cols-2 gap-10 max-lg:grid-cols-1">
      <section>
        <h2 className="text-lg font-medium">Light and picture</h2>
        <ul className="list-disc pl-5">
          <li>The sun behind you; hooves dark against light sand, or light against dark.</li>
          <li>Hooves in the picture at all times, the horse half as wide as the picture.</li>
          <li>The back camera, held level. A front camera may film a mirror image.</li>
          <li>Keep the sound: hoofbeats and your own voice lie under the strip.</li>
        </ul>
      </section>
      <section className="border-clay border-l-4 pl-4">
        <h2 className="text-lg font-medium">Safety comes first</h2>
        <ul className="list-disc pl-5">
          <li>Nobody films from the track; the tripod stands outside the rail.</li>
          <li>Rider with a helmet, and no phone in the rider’s hand.</li>
          <li>Say aloud where you stand before another horse comes in.</li>
          <li>Local rules and the yard’s own decide.</li>
        </ul>
      </section>
    </div>
  );
}
