import { useState } from "react";

import { Button } from "../ui/button";
import { NumberField } from "../ui/number-field";
import { Clicked } from "./clicked";
import type { ScaleProps } from "./scale-props";

/** Whole rounds of a figure: from which frame to which, and how wide it really was. */
export function RoundsForm({ own, clock, onChange }: ScaleProps) {
  const [from, setFrom] = useState<number | null>(null);
  const [diameter, setDiameter] = useState(18.5);
  const [rounds, setRounds] = useState(1);
  const seconds = (us: number) => `${((us - (clock.times[0] ?? 0)) / 1e6).toFixed(2)} s`;
  return (
    <>
      <Clicked
        rows={own.rounds.map((r) => ({
          key: `${r.from_us}`,
          says: `${r.rounds} × round ${r.diameter_m} m, ${seconds(r.from_us)} to ${seconds(r.to_us)}`,
        }))}
        onTake={(key) => onChange({ rounds: own.rounds.filter((r) => `${r.from_us}` !== key) })}
      />
      <div className="flex flex-wrap items-end gap-2">
        <NumberField
          label="Really ridden across"
          unit="m"
          value={diameter}
          onSave={setDiameter}
          live
        />
        <NumberField label="Rounds" unit="" value={rounds} onSave={setRounds} live />
        {from === null ? (
          <Button onClick={() => setFrom(clock.target())}>They begin here</Button>
        ) : (
          <Button
            onClick={() => {
              const to_us = clock.target();
              if (to_us <= from) return;
              onChange({
                rounds: [...own.rounds, { from_us: from, to_us, diameter_m: diameter, rounds }],
              });
              setFrom(null);
            }}
          >
            {seconds(from)} to here
          </Button>
        )}
      </div>
      <p className="text-soft mt-1 text-sm">
        A “20 m circle” between walls is ridden at about 18.5 m (common practice).
      </p>
    </>
  );
}
