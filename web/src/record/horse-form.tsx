import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";

import { api, done, inWords, type Schemas } from "../api/client";
import { recordKey, yardQuery } from "../api/queries";
import { Button } from "../ui/button";
import { Choice } from "../ui/choice";
import { Field } from "../ui/field";
import { Notice } from "../ui/notice";
import { OnOff } from "../ui/tick";

type Card = Schemas["HorseForm"];

const INTENDED = ["flat-walk", "running-walk", "rack", "fox-trot", "stepping-pace"];
const TEXTS = [
  ["goals", "Goals"],
  ["cautions", "What to mind (stands on the rider’s report too)"],
  ["leads", "Trouble with leads"],
  ["history", "What there was before (for you only)"],
] as const;

/** The horse's card to be written on. What is not known stays empty. */
export function HorseForm({ record, onDone }: { record: Schemas["Record"]; onDone: () => void }) {
  const client = useQueryClient();
  const [card, setCard] = useState<Card>(record.card);
  const [height, setHeight] = useState(
    card.withers_m ? String(Math.round(card.withers_m * 1000) / 10) : "",
  );
  const [born, setBorn] = useState(card.born?.toString() ?? "");
  const put = (part: Partial<Card>) => setCard((c) => ({ ...c, ...part }));
  const save = useMutation({
    mutationFn: () => {
      const cm = Number.parseFloat(height.replace(",", "."));
      const year = Number.parseInt(born, 10);
      const body = {
        ...card,
        withers_m: Number.isFinite(cm) ? cm / 100 : null,
        born: Number.isFinite(year) ? year : null,
      };
      return done(api.PUT("/api/horses/{horse}", { params: { path: { horse: record.id } }, body }));
    },
    onSuccess: async () => {
      await Promise.all([
        client.invalidateQueries({ queryKey: recordKey(record.id) }),
        client.invalidateQueries(yardQuery),
      ]);
      onDone();
    },
  });
  const submit = (e: FormEvent) => {
    e.preventDefault();
    save.mutate();
  };
  return (
    <form onSubmit={submit} className="mt-3 flex flex-col gap-3">
      <div className="flex flex-wrap items-end gap-4">
        <Field
          label="Name"
          value={card.name}
          required
          maxLength={120}
          onChange={(e) => put({ name: e.target.value })}
          className="w-48"
        />
        <Field
          label="Height at the withers"
          unit="cm"
          inputMode="decimal"
          value={height}
          onChange={(e) => setHeight(e.target.value)}
          className="w-24"
        />
        <Field
          label="Born"
          inputMode="numeric"
          placeholder="year"
          value={born}
          onChange={(e) => setBorn(e.target.value)}
          className="w-24"
        />
        <Choice
          label="Degree of collection"
          value={card.degree?.toString() ?? ""}
          onChange={(v) => put({ degree: v ? Number(v) : null })}
        >
          <option value="">not said</option>
          <option value="1">first: balance kept</option>
          <option value="2">second: direct transitions</option>
          <option value="3">third: well behind</option>
          <option value="4">fourth: with ease</option>
        </Choice>
        <Choice
          label="Weaker side"
          value={card.weak_side ?? ""}
          onChange={(v) => put({ weak_side: v || null })}
        >
          <option value="">not said</option>
          <option>left</option>
          <option>right</option>
        </Choice>
        <OnOff checked={card.gaited ?? false} onChange={(gaited) => put({ gaited })}>
          gaited
        </OnOff>
        {card.gaited && (
          <Choice
            label="Meant to go"
            value={card.intended_gait ?? ""}
            onChange={(v) => put({ intended_gait: v })}
          >
            <option value="">not said</option>
            {INTENDED.map((g) => (
              <option key={g} value={g}>
                {g.replace("-", " ")}
              </option>
            ))}
          </Choice>
        )}
      </div>
      {TEXTS.map(([key, label]) => (
        <label key={key} className="flex flex-col">
          <span className="text-soft text-sm">{label}</span>
          <textarea
            rows={2}
            maxLength={2000}
            value={card[key] ?? ""}
            onChange={(e) => put({ [key]: e.target.value })}
            className="border-line focus:border-ink bg-chalk rounded-[3px] border px-2 py-1"
          />
        </label>
      ))}
      <p className="text-soft text-sm">
        From the second degree on direct transitions are expected. Age and workload: follow your vet
        and local rules.
      </p>
      <div className="flex gap-3">
        <Button type="submit" disabled={save.isPending}>
          Save
        </Button>
        <Button plain onClick={onDone}>
          Leave it
        </Button>
      </div>
      {save.isError && <Notice text={inWords(save.error)} />}
    </form>
  );
}
