import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";

import { plusMinus } from "../ui/plus-minus";
import { api, done, inWords, type Schemas } from "../api/client";
import { glanceQuery, yardQuery } from "../api/queries";
import { Button } from "../ui/button";
import { Notice } from "../ui/notice";

type Props = {
  session: Schemas["SessionLine"];
  matters: readonly Schemas["Matter"][];
  ridden: readonly Schemas["RiddenLine"][];
};

/** The rider's own words and score beside what was measured. */
export function Felt({ session, matters, ridden }: Props) {
  const client = useQueryClient();
  const [felt, setFelt] = useState(session.felt);
  const [score, setScore] = useState(session.score?.toString() ?? "");
  const save = useMutation({
    mutationFn: () => {
      const { date, note, rider, arena, surface } = session;
      const body = { date, note, rider, arena, surface, felt, score: score ? Number(score) : null };
      return done(
        api.PUT("/api/sessions/{session}", { params: { path: { session: session.id } }, body }),
      );
    },
    onSuccess: () =>
      Promise.all([
        client.invalidateQueries(yardQuery),
        client.invalidateQueries(glanceQuery(session.id)),
      ]),
  });
  const submit = (e: FormEvent) => {
    e.preventDefault();
    save.mutate();
  };
  return (
    <section className="mt-5 grid grid-cols-2 gap-8 max-md:grid-cols-1">
      <form onSubmit={submit}>
        <h2 className="text-[1.3rem] font-medium">Felt</h2>
        <label className="mt-1 flex flex-col">
          <span className="text-soft text-sm">
            The rider’s own words{session.rider ? ` (${session.rider})` : ""}
          </span>
          <textarea
            rows={3}
            maxLength={2000}
            value={felt}
            onChange={(e) => setFelt(e.target.value)}
            className="border-line focus:border-ink bg-chalk rounded-[3px] border px-2 py-1"
          />
        </label>
        <div className="mt-2 flex items-end gap-3">
          <label className="flex flex-col">
            <span className="text-soft text-sm">Own score, 0 to 10</span>
            <input
              type="number"
              min={0}
              max={10}
              step={0.5}
              value={score}
              onChange={(e) => setScore(e.target.value)}
              className="border-line focus:border-ink bg-chalk min-h-9 w-24 rounded-[3px] border px-2"
            />
          </label>
          <Button type="submit" disabled={save.isPending}>
            Save
          </Button>
          {save.isSuccess && <span role="status">saved</span>}
        </div>
        {save.isError && <Notice text={inWords(save.error)} />}
      </form>
      <div>
        <h2 className="text-[1.3rem] font-medium">Measured</h2>
        <ul className="mt-1">
          {matters.map(({ finding }) => (
            <li key={finding.code} className="flex items-baseline gap-3">
              <span className="grow">{finding.title}</span>
              <span className="font-mono text-[0.9rem]">{finding.figure}</span>
            </li>
          ))}
          {matters.length === 0 &&
            ridden.slice(0, 4).map((r) => (
              <li key={`${r.label} ${r.rein}`} className="flex items-baseline gap-3">
                <span className="grow">
                  {r.label}
                  {r.rein ? `, ${r.rein} rein` : ""}
                </span>
                <span className="font-mono text-[0.9rem]">
                  {r.tempo ? `${plusMinus(r.tempo, 1, 1)} /min` : "–"}
                </span>
              </li>
            ))}
          {matters.length === 0 && ridden.length === 0 && (
            <li className="text-soft">Nothing is measured yet.</li>
          )}
        </ul>
        <p className="text-soft mt-2 text-sm">
          Where the two differ is what eye and seat can learn from.
        </p>
      </div>
    </section>
  );
}
