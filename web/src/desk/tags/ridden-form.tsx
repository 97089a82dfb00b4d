import { useQuery } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";

import type { Schemas } from "../../api/client";
import { vocabularyQuery } from "../../api/queries";
import { Button } from "../../ui/button";
import { Choice, Count } from "../../ui/choice";
import { TICKS, VARIANTS } from "../../live/tag-words";
import { Tick } from "../../ui/tick";

export type Ridden = Schemas["Ridden"];

type Props = {
  value: Ridden;
  onSave: (ridden: Ridden) => void;
  onRemove: (() => void) | null;
};

/** Movement, gait, rein, lead, try, and what the coach saw. */
export function RiddenForm({ value, onSave, onRemove }: Props) {
  const { movements = [], gaits = [] } = useQuery(vocabularyQuery).data ?? {};
  const [ridden, setRidden] = useState(value);
  const [plan, setPlan] = useState(() => planOf(value.movement ?? ""));
  const set = (change: Partial<Ridden>) => setRidden({ ...ridden, ...change });
  const movement = plan ? plan.name : (ridden.movement ?? "");
  const submit = (e: FormEvent) => {
    e.preventDefault();
    onSave({ ...ridden, movement: plan ? named(plan) : ridden.movement || null });
  };
  return (
    <form onSubmit={submit} className="mt-2 grid grid-cols-2 gap-x-4 gap-y-2">
      <Choice
        label="Movement or figure"
        value={movement}
        onChange={(name) => {
          const asks = movements.some(({ id, plan }) => id === name && plan);
          setPlan(
            asks
              ? { name, first: name === "tempi" ? 4 : 2, second: name === "tempi" ? 5 : 2 }
              : null,
          );
          if (!asks) set({ movement: name || null });
        }}
      >
        <option value="">not said</option>
        {movements.map(({ id, says }) => (
          <option key={id} value={id}>
            {says}
          </option>
        ))}
      </Choice>
      {plan ? (
        <div className="flex gap-2">
          <Count
            label={plan.name === "tempi" ? "Every … strides" : "Strides of the first gait"}
            value={plan.first}
            most={plan.name === "tempi" ? 8 : 20}
            onChange={(first) => setPlan({ ...plan, first })}
          />
          <Count
            label={plan.name === "tempi" ? "Changes" : "Of the second"}
            value={plan.second}
            most={60}
            onChange={(second) => setPlan({ ...plan, second })}
          />
        </div>
      ) : (
        <Choice
          label="Variant"
          value={ridden.variant ?? ""}
          onChange={(v) => set({ variant: v || null })}
        >
          <option value="">not said</option>
          {VARIANTS.map((v) => (
            <option key={v}>{v}</option>
          ))}
        </Choice>
      )}
      <Choice label="Gait" value={ridden.gait ?? ""} onChange={(g) => set({ gait: g || null })}>
        <option value="">as the marks say</option>
        {gaits.map(({ id, says }) => (
          <option key={id} value={id}>
            {says}
          </option>
        ))}
      </Choice>
      <Choice
        label="Rein or direction"
        value={ridden.rein ?? ""}
        onChange={(r) => set({ rein: r || null })}
      >
        <option value="">as the clip</option>
        <option value="left">left</option>
        <option value="right">right</option>
      </Choice>
      <Choice
        label="Lead asked for"
        value={ridden.lead ?? ""}
        onChange={(l) => set({ lead: l || null })}
      >
        <option value="">as the clip</option>
        <option value="left">left</option>
        <option value="right">right</option>
      </Choice>
      <Count
        label="Which try"
        value={ridden.attempt ?? 0}
        least={0}
        most={99}
        onChange={(n) => set({ attempt: n > 0 ? n : null })}
      />
      <fieldset className="col-span-2">
        <legend className="text-soft text-sm">What you saw</legend>
        <div className="grid grid-cols-3">
          {TICKS.map((tick) => (
            <Tick
              key={tick}
              checked={ridden.ticks?.includes(tick) ?? false}
              onChange={(checked) => {
                const others = (ridden.ticks ?? []).filter((t) => t !== tick);
                set({ ticks: checked ? [...others, tick] : others });
              }}
            >
              {tick}
            </Tick>
          ))}
        </div>
      </fieldset>
      <label className="col-span-2 flex flex-col">
        <span className="text-soft text-sm">In your own words</span>
        <input
          maxLength={1000}
          value={ridden.words ?? ""}
          onChange={(e) => set({ words: e.target.value })}
          className="border-line focus:border-ink min-h-9 rounded-[3px] border px-2"
        />
      </label>
      <div className="col-span-2 flex gap-3">
        <Button type="submit">Save</Button>
        {onRemove && (
          <Button plain onClick={onRemove}>
            Forget it
          </Button>
        )}
      </div>
    </form>
  );
}

type Plan = { name: string; first: number; second: number };

function planOf(movement: string): Plan | null {
  const found = /^(tempi|drill)-(\d+)(?:x(\d+))?$/.exec(movement);
  const [, name, first, second] = found ?? [];
  return name ? { name, first: Number(first), second: Number(second ?? 5) } : null;
}

const named = (p: Plan) => `${p.name}-${p.first}x${p.second}`;
