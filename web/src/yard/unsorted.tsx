import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { Link } from "react-router";

import { api, done, inWords, type Schemas } from "../api/client";
import { yardQuery } from "../api/queries";
import { Button } from "../ui/button";
import { Notice } from "../ui/notice";
import { inFull, today } from "../ui/dates";
import { CoachOnly } from "../ui/me";
import { useRemove } from "../ui/removed";
import { Progress } from "./add-footage";
import { useUploads } from "./uploads";
import { Choice } from "../ui/choice";
import { DayField } from "../ui/day-field";

type Clip = Schemas["ClipLine"];
type Horse = Schemas["HorseLine"];

/** Footage that came in without a horse: one choice sorts it. */
export function Unsorted({ clips, horses }: { clips: readonly Clip[]; horses: readonly Horse[] }) {
  const { all, add, cancel } = useUploads();
  const picker = useRef<HTMLInputElement>(null);
  const sending = all.filter((s) => s.session === null);
  return (
    <section aria-label="New footage" className="border-line border-b py-2">
      <div className="flex items-center gap-3">
        <Button plain className="border-line border" onClick={() => picker.current?.click()}>
          Add footage
        </Button>
        <p className="text-soft text-sm">
          or drop files anywhere here, several at once. Each goes to its horse and to the day it was
          filmed; the originals stay as they are.
        </p>
        <input
          ref={picker}
          type="file"
          accept="video/*,.mkv"
          multiple
          className="sr-only"
          tabIndex={-1}
          aria-label="New footage files"
          onChange={(e) => {
            add(null, [...(e.target.files ?? [])]);
            e.target.value = "";
          }}
        />
      </div>
      {sending.map((s) => (
        <Progress key={s.key} sending={s} onCancel={() => cancel(s.key)} />
      ))}
      {clips.map((clip) => (
        <Sort key={clip.id} clip={clip} horses={horses} />
      ))}
    </section>
  );
}

function Sort({ clip, horses }: { clip: Clip; horses: readonly Horse[] }) {
  const client = useQueryClient();
  const remove = useRemove();
  const [horse, setHorse] = useState<number | null>(
    horses.length === 1 ? (horses[0]?.id ?? null) : null,
  );
  const [date, setDate] = useState(clip.recorded_on ?? today());
  const sort = useMutation({
    mutationFn: (horse: number) =>
      done(
        api.PUT("/api/clips/{clip}/place", {
          params: { path: { clip: clip.id } },
          body: { horse, date },
        }),
      ),
    onSuccess: () => client.invalidateQueries(yardQuery),
  });
  return (
    <div className="mt-2 flex flex-wrap items-center gap-3">
      <span
        aria-hidden
        className="bg-dune h-11 w-20 shrink-0 rounded-[2px]"
        style={
          clip.filmstrip
            ? {
                backgroundImage: `url(${clip.filmstrip})`,
                backgroundSize: "4000% auto",
                backgroundPosition: "50% 50%",
              }
            : undefined
        }
      />
      <span className="w-64 min-w-0">
        <Link
          to={`/clips/${clip.id}`}
          className="text-clay block truncate underline underline-offset-3"
        >
          {clip.name}
        </Link>
        <span className="text-soft block text-sm">
          {clip.length_s.toFixed(1)} s,{" "}
          {clip.recorded_on ? `filmed ${inFull(clip.recorded_on)}` : "day not noted by the camera"}
        </span>
      </span>
      <Choice
        look="bare"
        label={`Horse in ${clip.name}`}
        value={`${horse ?? ""}`}
        onChange={(v) => setHorse(v ? Number(v) : null)}
        className="w-44"
      >
        <option value="">whose footage?</option>
        {horses.map((h) => (
          <option key={h.id} value={h.id}>
            {h.name}
          </option>
        ))}
      </Choice>
      <DayField bare label={`Day of ${clip.name}`} value={date} onChange={setDate} />
      <Button
        disabled={horse === null || !date || sort.isPending}
        onClick={() => horse !== null && sort.mutate(horse)}
      >
        Put there
      </Button>
      <CoachOnly>
        <Button plain onClick={() => remove({ kind: "clip", id: clip.id, name: clip.name })}>
          Remove
        </Button>
      </CoachOnly>
      {sort.isError && <Notice text={inWords(sort.error)} />}
    </div>
  );
}
