import { useMutation } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";

import { api, done, inWords } from "../api/client";
import { Button } from "../ui/button";
import { Field } from "../ui/field";
import { Notice } from "../ui/notice";

/** Signing out, and one's own password. */
export function Yours() {
  const [changing, setChanging] = useState(false);
  const out = useMutation({
    mutationFn: (everywhere: boolean) => done(api.POST("/api/sign-out", { body: { everywhere } })),
    onSuccess: () => window.location.assign("/"),
  });
  return (
    <section className="mt-8" aria-label="Signed in here">
      <div className="flex flex-wrap items-center gap-2">
        <Button className="min-h-11" disabled={out.isPending} onClick={() => out.mutate(false)}>
          Sign out
        </Button>
        <Button
          plain
          className="min-h-11"
          disabled={out.isPending}
          onClick={() => out.mutate(true)}
        >
          Sign out on all my devices
        </Button>
        <Button plain className="min-h-11" onClick={() => setChanging(!changing)}>
          Change my password
        </Button>
      </div>
      {out.isError && <Notice text={inWords(out.error)} onClose={() => out.reset()} />}
      {changing && <Password />}
    </section>
  );
}

function Password() {
  const [old, setOld] = useState("");
  const [now, setNow] = useState("");
  const change = useMutation({
    mutationFn: () => done(api.PUT("/api/me/password", { body: { old, new: now } })),
    onSuccess: () => window.location.assign("/"),
  });
  const submit = (e: FormEvent) => {
    e.preventDefault();
    change.mutate();
  };
  return (
    <form onSubmit={submit} className="mt-3 flex flex-wrap items-end gap-3">
      <Field
        label="The password until now"
        type="password"
        autoComplete="current-password"
        required
        value={old}
        onChange={(e) => setOld(e.target.value)}
      />
      <Field
        label="The password from now on"
        type="password"
        autoComplete="new-password"
        required
        value={now}
        onChange={(e) => setNow(e.target.value)}
      />
      <Button type="submit" disabled={change.isPending}>
        Change it
      </Button>
      <p className="text-soft w-full text-sm">You are then asked to sign in again everywhere.</p>
      {change.isError && <Notice text={inWords(change.error)} />}
    </form>
  );
}
