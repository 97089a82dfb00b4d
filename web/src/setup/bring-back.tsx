import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useRef, useState } from "react";

import { api, asProblem, inWords, Refused, type Schemas, taken, Unreachable } from "../api/client";
import { ownYardHeader } from "../api/own-yard";
import { yardQuery } from "../api/queries";
import { Button } from "../ui/button";
import { Field } from "../ui/field";
import { Notice } from "../ui/notice";

/** A yard put back from its ZIP or its backups, where there is no yard yet. */
export function BringBack() {
  const client = useQueryClient();
  const file = useRef<HTMLInputElement>(null);
  const [folder, setFolder] = useState("");
  const back = useMutation({
    mutationFn: send,
    onSuccess: () => client.invalidateQueries(),
  });
  const fromFolder = (e: FormEvent) => {
    e.preventDefault();
    back.mutate(folder.trim());
  };
  const yard = useQuery(yardQuery);
  const empty = yard.data && yard.data.horses.length + yard.data.unsorted.length === 0;
  if (!empty && back.isIdle) {
    return (
      <p className="text-soft text-[0.95rem]">
        It goes back only where there is no yard yet: start Umlauf on an empty folder and open this
        page there, or use{" "}
        <code className="font-mono text-[0.87rem]">
          umlauf restore yard.umlauf.zip --data FOLDER
        </code>
        .
      </p>
    );
  }
  return (
    <div className="mt-2">
      <input
        ref={file}
        type="file"
        accept=".zip,application/zip"
        aria-label="A yard’s ZIP"
        className="sr-only"
        tabIndex={-1}
        onChange={(e) => {
          const [chosen] = e.target.files ?? [];
          if (chosen) back.mutate(chosen);
          e.target.value = "";
        }}
      />
      <Button disabled={back.isPending} onClick={() => file.current?.click()}>
        {back.isPending ? "Putting it back …" : "Put a yard back from its ZIP"}
      </Button>
      <form onSubmit={fromFolder} className="mt-2 flex items-end gap-3">
        <Field
          label="Or the folder of its backups on this machine"
          value={folder}
          placeholder="e.g. /media/wiebke/stick"
          onChange={(e) => setFolder(e.target.value)}
          className="w-[26rem]"
        />
        <Button type="submit" disabled={back.isPending || folder.trim() === ""}>
          Put it back from there
        </Button>
      </form>
      {back.isSuccess && (
        <p role="status" className="mt-1">
          The yard is back: {back.data.horses} horses, {back.data.clips} clips, {back.data.films}{" "}
          films.{" "}
          {back.data.lacks && (
            <strong className="text-clay">Not all of it: {back.data.lacks}. </strong>
          )}
          Copies for stepping are being made.
        </p>
      )}
      {back.isError && <Notice text={inWords(back.error)} onClose={() => back.reset()} />}
    </div>
  );
}

/** A ZIP, or the name of a folder of backups. */
async function send(from: File | string): Promise<Schemas["BroughtBack"]> {
  if (typeof from === "string") {
    return taken(api.POST("/api/backups/restore", { body: { folder: from } }));
  }
  const answer = await fetch("/api/import", {
    method: "POST",
    headers: { "Content-Type": "application/zip", ...ownYardHeader() },
    body: from,
  }).catch(() => {
    throw new Unreachable();
  });
  if (!answer.ok) throw new Refused(asProblem(await answer.json().catch(() => null), answer));
  return (await answer.json()) as Schemas["BroughtBack"];
}
