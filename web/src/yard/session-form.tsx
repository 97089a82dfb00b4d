import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { Link } from "react-router";

import { api, done, inWords, type Schemas, taken } from "../api/client";
import { yardQuery } from "../api/queries";
import { Button } from "../ui/button";
import { Field } from "../ui/field";
import { Notice } from "../ui/notice";
import { inFull, today } from "../ui/dates";
import { CoachOnly } from "../ui/me";
import { useRemove } from "../ui/removed";
import { DayField } from "../ui/day-field";

type Form = Required<Schemas["SessionForm"]>;
type Session = Schemas["SessionLine"];

const EMPTY = { note: "", rider: "", arena: "", surface: "", felt: "", score: null };

type Props = {
  value: Form;
  button: string;
  save: (form: Form) => Promise<unknown>;
  onDone: () => void;
};

function SessionForm({ value, button, save, onDone }: Props) {
  const client = useQueryClient();
  const [form, setForm] = useState(value);
  const saving = useMutation({
    mutationFn: () => save(form),
    onSuccess: async () => {
      setForm(value);
      await client.invalidateQueries(yardQuery);
      onDone();
    },
  });
  const field = (
    key: "note" | "rider" | "arena" | "surface",
    label: string,
    hint: string,
    width: string,
  ) => (
    <Field
      label={label}
      value={form[key]}
      placeholder={hint}
      maxLength={key === "note" ? 2000 : 120}
      onChange={(e) => setForm({ ...form, [key]: e.target.value })}
      className={width}
    />
  );
  const submit = (e: FormEvent) => {
    e.preventDefault();
    saving.mutate();
  };
  return (
    <form onSubmit={submit} className="flex flex-wrap items-end gap-3">
      <DayField
        label="Session on"
        value={form.date}
        onChange={(date) => setForm({ ...form, date })}
      />
      {field("note", "What was ridden", "e.g. canter, left rein", "w-72")}
      {field("rider", "Rider", "", "w-32")}
      {field("arena", "Arena", "e.g. outdoor 20×60", "w-36")}
      {field("surface", "Surface", "e.g. wet sand", "w-32")}
      <Button type="submit" disabled={saving.isPending || !form.date}>
        {button}
      </Button>
      {saving.isError && <Notice text={inWords(saving.error)} />}
    </form>
  );
}

/** A new session of a horse. */
export function NewSession({ horse }: { horse: number }) {
  const params = { path: { horse } };
  return (
    <SessionForm
      value={{ date: today(), ...EMPTY }}
      button="Add session"
      save={(body) => taken(api.POST("/api/horses/{horse}/sessions", { params, body }))}
      onDone={() => {}}
    />
  );
}

/** What is said of a session, and changing it. */
export function EditSession({ session, horseName }: { session: Session; horseName: string }) {
  const remove = useRemove();
  const [editing, setEditing] = useState(false);
  const { date, note, rider, arena, surface, felt, score = null } = session;
  if (editing) {
    const params = { path: { session: session.id } };
    return (
      <SessionForm
        value={{ date, note, rider, arena, surface, felt, score }}
        button="Save"
        save={(body) => done(api.PUT("/api/sessions/{session}", { params, body }))}
        onDone={() => setEditing(false)}
      />
    );
  }
  const where = [rider && `rider ${rider}`, arena, surface].filter(Boolean).join(" · ");
  return (
    <div className="flex items-baseline gap-3">
      <h3 className="font-medium whitespace-nowrap">
        <Link
          className="text-clay underline underline-offset-3"
          to={`/sessions/${session.id}`}
          aria-label={`The session of ${inFull(date)} at a glance`}
        >
          {inFull(date)}
        </Link>
      </h3>
      <p className="grow">
        {note} <span className="text-soft text-sm">{where}</span>
      </p>
      <Button plain onClick={() => setEditing(true)}>
        Change
      </Button>
      <CoachOnly>
        <Button
          plain
          aria-label={`Remove the session of ${inFull(date)}`}
          onClick={() =>
            remove({ kind: "session", id: session.id, name: `${horseName}, ${inFull(date)}` })
          }
        >
          Remove
        </Button>
      </CoachOnly>
    </div>
  );
}
