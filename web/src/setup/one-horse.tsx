import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";

import { api, inWords, type Schemas, taken } from "../api/client";
import { backupDaysQuery, backupsQuery, packedHorsesQuery } from "../api/queries";
import { Button } from "../ui/button";
import { Choice } from "../ui/choice";
import { inFull } from "../ui/dates";
import { Notice } from "../ui/notice";

/** One horse out of a backup, beside what is in the yard. */
export function OneHorse() {
  const folder = useQuery(backupsQuery).data?.folder;
  return folder ? <FromBackups key={folder} /> : null;
}

function FromBackups() {
  const days = useQuery(backupDaysQuery);
  const [day, setDay] = useState("");
  const all = days.data?.days ?? [];
  return (
    <section className="border-line border-b py-4" aria-label="One horse from a backup">
      <h2 className="text-[1.3rem] font-medium">One horse from a backup</h2>
      <p className="text-soft max-w-[70ch] text-sm">
        It comes back with its sessions, marks and films as they were that day. Nothing that is here
        changes: where a horse of its name is here, it stands beside it, with the day.
      </p>
      {days.isSuccess && all.length === 0 && (
        <p className="mt-1">
          No backup is in the folder. If they are on a stick, put it in and open this page again.
        </p>
      )}
      {days.isError && <Notice text={inWords(days.error)} />}
      {all.length > 0 && (
        <div className="mt-2 w-[16rem]">
          <Choice label="Backup of" value={day} onChange={setDay}>
            <option value="">choose a day</option>
            {all.map((d) => (
              <option key={d} value={d}>
                {inFull(d)}
              </option>
            ))}
          </Choice>
        </div>
      )}
      {day && <Horses key={day} day={day} />}
    </section>
  );
}

function Horses({ day }: { day: string }) {
  const client = useQueryClient();
  const packed = useQuery(packedHorsesQuery(day));
  const bring = useMutation({
    mutationFn: (horse: number) =>
      taken(
        api.POST("/api/backups/days/{day}/horses/{horse}", { params: { path: { day, horse } } }),
      ),
    onSuccess: () => client.invalidateQueries(),
  });
  if (packed.isError) return <Notice text={inWords(packed.error)} />;
  if (!packed.data) return <p className="text-soft mt-1">Reading it …</p>;
  return (
    <>
      {packed.data.horses.length === 0 && <p className="mt-1">There was no horse that day.</p>}
      <ul className="mt-1">
        {packed.data.horses.map((horse) => (
          <li key={horse.id} className="flex min-h-11 items-center gap-3">
            <span className="w-[14rem] truncate font-medium" title={horse.name}>
              {horse.name}
            </span>
            <span className="text-soft w-[19rem]">{ridden(horse)}</span>
            <Button disabled={bring.isPending} onClick={() => bring.mutate(horse.id)}>
              {bring.isPending && bring.variables === horse.id ? "Bringing back …" : "Bring back"}
            </Button>
          </li>
        ))}
      </ul>
      {bring.isSuccess && <Came back={bring.data} />}
      {bring.isError && <Notice text={inWords(bring.error)} onClose={() => bring.reset()} />}
    </>
  );
}

function Came({ back }: { back: Schemas["HorseBack"] }) {
  const clips = back.clips === 1 ? "1 clip" : `${back.clips} clips`;
  const films = back.films === 1 ? "1 film" : `${back.films} films`;
  return (
    <p role="status" className="mt-1">
      <Link className="text-clay underline" to={`/horses/${back.horse}`}>
        {back.name}
      </Link>{" "}
      is back: {clips}, {back.films === 0 ? "whose films are here" : `${films} that were not here`}.{" "}
      {back.lacks && <strong className="text-clay">Not all of it: {back.lacks}.</strong>}
    </p>
  );
}

function ridden({ sessions, last }: Schemas["Packed"]): string {
  if (sessions === 0 || !last) return "no session yet";
  return `${sessions === 1 ? "1 session" : `${sessions} sessions`}, the last on ${inFull(last)}`;
}
