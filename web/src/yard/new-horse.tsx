import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";

import { api, inWords, taken } from "../api/client";
import { yardAnew } from "../api/queries";
import { Button } from "../ui/button";
import { Field } from "../ui/field";
import { Notice } from "../ui/notice";
import { OnOff } from "../ui/tick";

/** A new horse: a name is enough. */
export function NewHorse({ onDone }: { onDone: (id: number | null) => void }) {
  const client = useQueryClient();
  const [name, setName] = useState("");
  const [height, setHeight] = useState("");
  const [gaited, setGaited] = useState(false);
  const add = useMutation({
    mutationFn: () => {
      const withers = Number.parseFloat(height.replace(",", "."));
      return taken(
        api.POST("/api/horses", {
          body: { name, withers_m: Number.isFinite(withers) ? withers / 100 : null, gaited },
        }),
      );
    },
    onSuccess: async ({ id }) => {
      onDone(id);
      await yardAnew(client);
    },
  });
  const submit = (e: FormEvent) => {
    e.preventDefault();
    add.mutate();
  };
  return (
    <form onSubmit={submit} className="border-line flex flex-wrap items-end gap-4 border-b py-4">
      <Field
        label="Horse’s name"
        value={name}
        required
        maxLength={120}
        onChange={(e) => setName(e.target.value)}
        className="w-56"
      />
      <Field
        label="Height at the withers"
        unit="cm"
        inputMode="decimal"
        placeholder="not measured"
        value={height}
        onChange={(e) => setHeight(e.target.value)}
        className="w-32"
      />
      <OnOff checked={gaited} onChange={setGaited}>
        gaited (flat walk, rack, tölt …)
      </OnOff>
      <Button type="submit" disabled={add.isPending}>
        Save
      </Button>
      <Button plain onClick={() => onDone(null)}>
        Leave it
      </Button>
      {add.isError && <Notice text={inWords(add.error)} />}
    </form>
  );
}
