import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";

import { api, done, inWords, type Schemas } from "../api/client";
import { networkQuery, peopleQuery, yardQuery } from "../api/queries";
import { Button } from "../ui/button";
import { inFull } from "../ui/dates";
import { Notice } from "../ui/notice";
import { Acts } from "./acts";
import { Links } from "./links";
import { Network } from "./network";
import { NewPassword } from "./new-password";
import { PersonForm } from "./person-form";
import { ROLES } from "./roles";

/** Who may sign in, from where, and what they did. */
export function People() {
  const client = useQueryClient();
  const people = useQuery(peopleQuery);
  const yard = useQuery(yardQuery);
  const [open, setOpen] = useState<number | "new" | null>(null);
  const all = people.data?.people ?? [];
  const horses = yard.data?.horses ?? [];
  const after = async () => {
    setOpen(null);
    await Promise.all([
      client.invalidateQueries(peopleQuery),
      client.invalidateQueries(networkQuery),
    ]);
  };
  return (
    <section className="border-line border-b py-4" aria-label="People and tablets">
      <h2 className="text-[1.3rem] font-medium">People and tablets</h2>
      <Network />
      {people.isError && <Notice text={inWords(people.error)} />}
      <ul className="mt-3">
        {all.map((p) => (
          <li key={p.id} className="border-line border-t py-1">
            <Line person={p} horses={horses} onOpen={() => setOpen(open === p.id ? null : p.id)} />
            {open === p.id && (
              <Opened
                person={p}
                horses={horses}
                least={people.data?.password_letters ?? 10}
                onDone={() => void after()}
              />
            )}
          </li>
        ))}
      </ul>
      {open === "new" ? (
        <PersonForm
          horses={horses}
          first={all.length === 0}
          least={people.data?.password_letters ?? 10}
          onDone={() => void after()}
          onLeave={() => setOpen(null)}
        />
      ) : (
        people.data && (
          <Button className="mt-2" onClick={() => setOpen("new")}>
            {all.length === 0 ? "Give the coach a password" : "Let somebody in"}
          </Button>
        )
      )}
      <Links />
      {all.length > 0 && <Acts />}
    </section>
  );
}

type Horses = readonly Schemas["HorseLine"][];
type Person = Schemas["PersonLine"];

function Line({ person, horses, onOpen }: { person: Person; horses: Horses; onOpen: () => void }) {
  const own = horses.filter((h) => person.horses.includes(h.id)).map((h) => h.name);
  const seen = person.devices[0];
  return (
    <div className="flex flex-wrap items-baseline gap-x-4">
      <span className="w-40 truncate font-medium">{person.name}</span>
      <span className="grow">
        {ROLES[person.role as keyof typeof ROLES].name}
        {person.role === "rider" &&
          (own.length > 0 ? ` of ${own.join(", ")}` : ", of no horse yet")}
        {person.under_age && ", under age"}
      </span>
      <span className="text-soft text-sm">
        {seen
          ? `${person.devices.length === 1 ? "1 device" : `${person.devices.length} devices`}, last on ${inFull(new Date(seen.seen_ms).toISOString().slice(0, 10))}`
          : "not signed in anywhere"}
      </span>
      <Button plain aria-label={`Change ${person.name}`} onClick={onOpen}>
        Change
      </Button>
    </div>
  );
}

function Opened({
  person,
  horses,
  least,
  onDone,
}: {
  person: Person;
  horses: Horses;
  least: number;
  onDone: () => void;
}) {
  const path = { params: { path: { person: person.id } } };
  // A password cannot be brought back: it is asked once more.
  const [sure, setSure] = useState(false);
  const out = useMutation({
    mutationFn: () => done(api.POST("/api/people/{person}/sign-out", path)),
    onSuccess: onDone,
  });
  const away = useMutation({
    mutationFn: () => done(api.DELETE("/api/people/{person}", path)),
    onSuccess: onDone,
  });
  const failed = out.error ?? away.error;
  return (
    <div className="bg-chalk mb-2 rounded-[3px] px-3 py-2">
      {person.devices.length > 0 && (
        <p className="text-soft text-sm">
          Signed in on {person.devices.map((d) => d.device).join(", ")}.
        </p>
      )}
      <PersonForm
        person={person}
        horses={horses}
        first={false}
        least={least}
        onDone={onDone}
        onLeave={onDone}
      />
      <NewPassword person={person} least={least} onDone={onDone} />
      <div className="mt-2 flex gap-2">
        <Button plain disabled={out.isPending} onClick={() => out.mutate()}>
          Sign out everywhere
        </Button>
        <Button
          plain
          className="text-clay"
          disabled={away.isPending}
          onClick={() => (sure ? away.mutate() : setSure(true))}
        >
          {sure ? `Yes, ${person.name} is let in no more` : "Let in no more"}
        </Button>
      </div>
      {failed && <Notice text={inWords(failed)} />}
    </div>
  );
}
