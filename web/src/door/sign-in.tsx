import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";

import { api, inWords, type Schemas, taken } from "../api/client";
import { meQuery } from "../api/queries";
import { Button } from "../ui/button";
import { Field } from "../ui/field";
import { Notice } from "../ui/notice";

/** Asks for name and password. */
export function SignIn({ onIn }: { onIn?: (me: Schemas["Me"]) => void }) {
  const client = useQueryClient();
  const [name, setName] = useState("");
  const [password, setPassword] = useState("");
  const signIn = useMutation({
    mutationFn: () => taken(api.POST("/api/sign-in", { body: { name, password } })),
    onSuccess: (me) => {
      client.setQueryData(meQuery.queryKey, me);
      onIn?.(me);
    },
  });
  const submit = (e: FormEvent) => {
    e.preventDefault();
    signIn.mutate();
  };
  return (
    <form onSubmit={submit} className="flex max-w-sm flex-col gap-3">
      <Field
        label="Your name"
        value={name}
        autoComplete="username"
        autoCapitalize="none"
        required
        onChange={(e) => setName(e.target.value)}
        className="min-h-11 w-full"
      />
      <Field
        label="Your password"
        type="password"
        value={password}
        autoComplete="current-password"
        required
        onChange={(e) => setPassword(e.target.value)}
        className="min-h-11 w-full"
      />
      {signIn.isError && <Notice text={inWords(signIn.error)} />}
      <Button type="submit" disabled={signIn.isPending} className="min-h-11 justify-center">
        {signIn.isPending ? "Looking …" : "Come in"}
      </Button>
      <p className="text-soft text-sm">
        Your coach gives you both. At the machine that Umlauf runs on nothing is asked for.
      </p>
    </form>
  );
}
