import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";

import { api, inWords, type Schemas, taken } from "../api/client";
import { backupDaysQuery, backupsQuery, checkQuery } from "../api/queries";
import { Button } from "../ui/button";
import { inFull } from "../ui/dates";
import { Field } from "../ui/field";
import { Notice } from "../ui/notice";

/** Where the yard's second copy goes, and when the last good one was made. */
export function Backups() {
  const backups = useQuery(backupsQuery);
  return (
    <section className="border-line border-b py-4" aria-label="Backups">
      <h2 className="text-[1.3rem] font-medium">Backups</h2>
      {backups.data && <Chosen key={backups.data.folder ?? ""} backups={backups.data} />}
      {backups.isError && <Notice text={inWords(backups.error)} />}
    </section>
  );
}

function Chosen({ backups }: { backups: Schemas["Backups"] }) {
  const client = useQueryClient();
  const [path, setPath] = useState(backups.folder ?? "");
  const after = async (data: Schemas["Backups"]) => {
    client.setQueryData(backupsQuery.queryKey, data);
    await client.invalidateQueries(checkQuery);
    await client.invalidateQueries(backupDaysQuery);
  };
  const choose = useMutation({
    mutationFn: () => taken(api.PUT("/api/backups", { body: { folder: path || null } })),
    onSuccess: after,
  });
  const now = useMutation({
    mutationFn: () => taken(api.POST("/api/backups")),
    onSuccess: after,
    onError: () => client.invalidateQueries(backupsQuery),
  });
  const busy = now.isPending || backups.at_work;
  const submit = (e: FormEvent) => {
    e.preventDefault();
    choose.mutate();
  };
  return (
    <>
      <p role="status" className="font-medium">
        {first(backups, busy)}
      </p>
      <p className="text-soft max-w-[70ch] text-sm">
        Once a day everything goes into a folder on a stick or a network drive, each film once, and
        is read back before it counts. The last 7 days, 4 weeks and 12 months are kept.
      </p>
      <form onSubmit={submit} className="mt-2 flex items-end gap-3">
        <Field
          label="Folder for backups"
          value={path}
          placeholder="e.g. /media/wiebke/stick"
          onChange={(e) => setPath(e.target.value)}
          className="w-[26rem]"
        />
        <Button type="submit" disabled={choose.isPending}>
          Save
        </Button>
        {backups.folder && (
          <Button disabled={busy} onClick={() => now.mutate()}>
            {busy ? "Backing up …" : "Back up now"}
          </Button>
        )}
      </form>
      {choose.isError && <Notice text={inWords(choose.error)} onClose={() => choose.reset()} />}
      {now.isError && <Notice text={inWords(now.error)} onClose={() => now.reset()} />}
      {!now.isError && backups.trouble && <Notice text={`The latest try: ${backups.trouble}`} />}
      {backups.lacks.length > 0 && <Notice text={`Not all of it: ${backups.lacks.join("; ")}`} />}
    </>
  );
}

/** What matters first: whether there is a second copy. */
function first({ folder, last }: Schemas["Backups"], busy: boolean): string {
  if (busy) return "A backup is being made.";
  if (!folder) return "No backups are made: if this machine fails, everything marked is gone.";
  return last ? `The last good backup is of ${inFull(last)}.` : "No backup has been made yet.";
}
