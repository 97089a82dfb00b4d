import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";

import { api, inWords, taken } from "../api/client";
import { setupQuery } from "../api/queries";
import { Button } from "../ui/button";
import { Field } from "../ui/field";
import { Notice } from "../ui/notice";

/** A folder whose new footage comes in by itself. */
export function WatchedFolder({ folder }: { folder: string }) {
  const client = useQueryClient();
  const [path, setPath] = useState(folder);
  const save = useMutation({
    mutationFn: () => taken(api.PUT("/api/setup", { body: { watched_folder: path || null } })),
    onSuccess: () => client.invalidateQueries(setupQuery),
  });
  const submit = (e: FormEvent) => {
    e.preventDefault();
    save.mutate();
  };
  return (
    <section className="border-line border-b py-4">
      <h2 className="text-[1.3rem] font-medium">Watched folder</h2>
      <p className="text-soft max-w-[70ch] text-sm">
        New footage in this folder of the machine that runs Umlauf is copied in by itself, half a
        minute after it has come to rest, and waits in the yard to be told its horse. The folder is
        left as it is.
      </p>
      <form onSubmit={submit} className="mt-2 flex items-end gap-3">
        <Field
          label="Folder"
          value={path}
          placeholder="e.g. /home/wiebke/Videos"
          onChange={(e) => setPath(e.target.value)}
          className="w-[26rem]"
        />
        <Button type="submit" disabled={save.isPending}>
          Save
        </Button>
        {save.isSuccess && <span className="text-soft">saved</span>}
      </form>
      {save.isError && <Notice text={inWords(save.error)} />}
    </section>
  );
}
