import { useState } from "react";

import { Button } from "../ui/button";
import { Choice } from "../ui/choice";
import { Field } from "../ui/field";
import { NumberField } from "../ui/number-field";
import { Clicked } from "./clicked";
import type { ScaleProps } from "./scale-props";

type Props = ScaleProps & { residuals: readonly number[] };

/** Points of known place: a letter's post, or any place in metres. */
export function PlanePoints({ own, ground, onAim, onChange, residuals }: Props) {
  const [which, setWhich] = useState("own");
  const [word, setWord] = useState("");
  const [x, setX] = useState<number | null>(null);
  const [y, setY] = useState<number | null>(null);
  const post = ground.posts.find((p) => p.name === which);
  const free = own.points.length + 1;
  const name = post ? post.name : word.trim() || `cone ${free}`;
  const place = post ?? (x !== null && y !== null ? { x_m: x, y_m: y } : null);
  return (
    <>
      <Clicked
        rows={own.points.map((p, k) => ({
          key: p.name,
          says: `${p.name}: ${metres(p.x_m)} across, ${metres(p.y_m)} along`,
          more: residuals.length > 4 ? `${(residuals[k] ?? 0).toFixed(1)} px off` : undefined,
        }))}
        onTake={(key) => onChange({ points: own.points.filter((p) => p.name !== key) })}
      />
      <div className="flex flex-wrap items-end gap-2">
        <Choice label="Point" value={which} onChange={setWhich}>
          <option value="own">a place of my own</option>
          {ground.posts.map((p) => (
            <option key={p.name} value={p.name}>
              {p.name}
            </option>
          ))}
        </Choice>
        {!post && (
          <>
            <Field
              label="Called"
              className="w-24"
              placeholder={`cone ${free}`}
              value={word}
              onChange={(e) => setWord(e.target.value)}
            />
            <NumberField label="Across from K’s side" unit="m" value={x} onSave={setX} live />
            <NumberField label="Along from A" unit="m" value={y} onSave={setY} live />
          </>
        )}
        <Button
          disabled={!place}
          onClick={() => place && onAim({ kind: "point", name, x_m: place.x_m, y_m: place.y_m })}
        >
          Click {name}
        </Button>
      </div>
      <details className="mt-1 text-[0.95rem]">
        <summary className="text-clay min-h-6 cursor-pointer">
          how exactly the places are known
        </summary>
        <div className="flex flex-wrap items-end gap-2">
          <NumberField
            label="Places, within"
            unit="cm (1 sd)"
            value={Math.round(own.place_sd_m * 1000) / 10}
            onSave={(v) => onChange({ place_sd_m: v / 100 })}
          />
          <NumberField
            label="Letters outside the rail"
            unit="m"
            value={own.letters_out_m}
            onSave={(v) => onChange({ letters_out_m: v })}
          />
        </div>
      </details>
    </>
  );
}

const metres = (v: number) => `${Math.round(v * 100) / 100} m`;
