import { useMutation } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";

import { api, done, inWords, type Schemas } from "../api/client";
import { Button } from "../ui/button";
import { Field } from "../ui/field";
import { Notice } from "../ui/notice";

type Props = { person: Schemas["PersonLine"]; least: number; onDone: () => void };

/** Gives somebody who has forgotten theirs another password. */
export function NewPassword({ person, least, onDone }: Props) {
  const [password, setPassword] = useState("");
  const save = useMutation({
    mutationFn: () =>
      done(
        api.PUT("/api/people/{person}/password", {
          params: { path: { person: person.id } },
          body: { password },
        }),
      ),
    onSuccess: onDone,
  });
  const submit = (e: FormEvent) => {
    e.preventDefault();
    save.mutate();
  };
  return (
    <form onSubmit={submit} className="mt-2 flex flex-wrap items-end gap-3">
      <Field
        label={`Another password, ${least} letters or more`}
        type="password"
        autoComplete="new-password"
        required
        value={password}
        onChange={(e) => setPassword(e.target.value)}
        className="w-64"
      />
      <Button type="submit" plain disabled={save.isPending}>
        Give it
      </Button>
      {save.isError && <Notice text={inWords(save.error)} />}
    </form>
  );
}
