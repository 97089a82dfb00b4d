import { useMutation } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";

import { api, done, inWords, type Schemas, taken } from "../api/client";
import { Button } from "../ui/button";
import { Choice } from "../ui/choice";
import { Field } from "../ui/field";
import { Notice } from "../ui/notice";
import { Tick } from "../ui/tick";
import { type Role, ROLES } from "./roles";

type Props = {
  /** Whom it is about; somebody new without. */
  person?: Schemas["PersonLine"];
  horses: readonly Schemas["HorseLine"][];
  /** The first who may sign in is the coach. */
  first: boolean;
  /** Letters of a password at least. */
  least: number;
  onDone: () => void;
  onLeave: () => void;
};

/** Somebody's name, role and horses; of somebody new the password too. */
export function PersonForm({ person, horses, first, least, onDone, onLeave }: Props) {
  const [name, setName] = useState(person?.name ?? (first ? "coach" : ""));
  const [role, setRole] = useState<Role>(
    (person?.role as Role | undefined) ?? (first ? "coach" : "rider"),
  );
  const [own, setOwn] = useState<readonly number[]>(person?.horses ?? []);
  const [minor, setMinor] = useState(person?.under_age ?? false);
  const [password, setPassword] = useState("");
  const save = useMutation({
    mutationFn: async () => {
      const body = { name, role, under_age: minor, horses: [...own] };
      if (person) {
        const path = { params: { path: { person: person.id } } };
        await done(api.PUT("/api/people/{person}", { ...path, body }));
      } else {
        await taken(api.POST("/api/people", { body: { person: body, password } }));
      }
    },
    onSuccess: onDone,
  });
  const submit = (e: FormEvent) => {
    e.preventDefault();
    save.mutate();
  };
  const tick = (id: number, on: boolean) =>
    setOwn(on ? [...own, id] : own.filter((other) => other !== id));
  return (
    <form onSubmit={submit} className="mt-2 flex flex-col gap-2">
      <div className="flex flex-wrap items-end gap-3">
        <Field
          label={first ? "Name to sign in with" : "Name"}
          value={name}
          required
          maxLength={64}
          autoComplete="off"
          onChange={(e) => setName(e.target.value)}
          className="w-52"
        />
        {!first && (
          <Choice label="Role" value={role} onChange={(v) => setRole(v as Role)} className="w-36">
            {Object.entries(ROLES).map(([key, r]) => (
              <option key={key} value={key}>
                {r.name}
              </option>
            ))}
          </Choice>
        )}
        {!person && (
          <Field
            label={`Password, ${least} letters or more`}
            type="password"
            autoComplete="new-password"
            required
            value={password}
            onChange={(e) => setPassword(e.target.value)}
            className="w-64"
          />
        )}
      </div>
      <p className="text-soft text-sm">
        {first
          ? "Four words that do not belong together are easy to keep. At this machine nothing is ever asked for."
          : `${ROLES[role].name}: ${ROLES[role].may}.`}
      </p>
      {role === "rider" && (
        <>
          <fieldset className="flex flex-wrap gap-x-5">
            <legend className="text-soft text-sm">Horses that {name || "they"} may see</legend>
            {horses.map((h) => (
              <Tick key={h.id} checked={own.includes(h.id)} onChange={(on) => tick(h.id, on)}>
                {h.name}
              </Tick>
            ))}
          </fieldset>
          <Tick checked={minor} onChange={setMinor}>
            Under age: links that show {name || "them"} are made only when the parents have agreed
          </Tick>
        </>
      )}
      {save.isError && <Notice text={inWords(save.error)} />}
      <div className="flex gap-2">
        <Button type="submit" disabled={save.isPending}>
          {person ? "Save" : first ? "Set the password" : "Let them in"}
        </Button>
        <Button plain onClick={onLeave}>
          {person ? "Close" : "Leave it"}
        </Button>
      </div>
    </form>
  );
}
