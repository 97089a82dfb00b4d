import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { Link } from "react-router";

import { api, inWords, type Schemas, taken } from "../api/client";
import { Button } from "../ui/button";
import { Field } from "../ui/field";
import { Notice } from "../ui/notice";
import { AddFootage } from "./add-footage";
import { inFull, today } from "./dates";

/** A horse's sessions with their clips. */
export function SessionList({ horse }: { horse: Schemas["HorseLine"] }) {
  return (
    <div className="bg-chalk mb-4 px-5 py-3">
      <NewSession horse={horse.id} />
      {horse.sessions.map((session) => (
        <section key={session.id} className="border-line mt-3 border-t pt-3">
          <div className="flex items-baseline gap-3">
            <h3 className="font-medium">{inFull(session.date)}</h3>
            <p className="text-soft grow">{session.note}</p>
          </div>
          <ul>
            {session.clips.map((clip) => (
              <li key={clip.id}>
                <Link
                  to={`/clips/${clip.id}`}
                  className="hover:bg-dune flex min-h-9 items-baseline gap-4 rounded-[3px] px-2 py-1"
                >
                  <span className="w-44 truncate">{clip.name}</span>
                  <span className="text-soft w-16 text-right text-sm">
                    {clip.length_s.toFixed(1)} s
                  </span>
                  <span className="text-soft w-28 text-right text-sm">
                    {clip.footfalls} footfalls
                  </span>
                  <span className="grow">{clip.headline}</span>
                </Link>
              </li>
            ))}
          </ul>
          <AddFootage session={session.id} />
        </section>
      ))}
    </div>
  );
}

function NewSession({ horse }: { horse: number }) {
  const client = useQueryClient();
  const [date, setDate] = useState(today);
  const [note, setNote] = useState("");
  const add = useMutation({
    mutationFn: () =>
      taken(
        api.POST("/api/horses/{horse}/sessions", {
          params: { path: { horse } },
          body: { date, note },
        }),
      ),
    onSuccess: () => {
      setNote("");
      return client.invalidateQueries({ queryKey: ["yard"] });
    },
  });
  const submit = (e: FormEvent) => {
    e.preventDefault();
    add.mutate();
  };
  return (
    <form onSubmit={submit} className="flex flex-wrap items-end gap-4">
      <Field
        label="New session on"
        type="date"
        required
        value={date}
        onChange={(e) => setDate(e.target.value)}
      />
      <Field
        label="What was ridden"
        value={note}
        maxLength={2000}
        placeholder="e.g. canter, left rein, wet sand"
        onChange={(e) => setNote(e.target.value)}
        className="w-96"
      />
      <Button type="submit" disabled={add.isPending}>
        Add session
      </Button>
      {add.isError && <Notice text={inWords(add.error)} />}
    </form>
  );
}
