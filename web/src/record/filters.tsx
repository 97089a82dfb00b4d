import { Tabs } from "radix-ui";

import type { Schemas } from "../api/client";
import { Choice } from "../ui/choice";
import type { FilterName } from "./filter-names";
import { DayField } from "../ui/day-field";

type Props = {
  record: Schemas["Record"];
  query: Partial<Record<FilterName, string>>;
  onSet: (name: FilterName, value: string | null) => void;
};

/** The gait, and which bouts of it count. */
export function Filters({ record, query, onSet }: Props) {
  const { variants, movements, surfaces, riders, rates } = record.choices;
  const lists: [FilterName, string, readonly string[]][] = [
    ["rein", "Rein", ["left", "right"]],
    ["surface", "Footing", surfaces],
    ["rider", "Rider", riders],
    ["rate", "Frames/s", rates.map(String)],
  ];
  return (
    <div className="mt-3 flex flex-wrap items-end gap-x-4 gap-y-2">
      <Tabs.Root value={record.gait} onValueChange={(v) => onSet("gait", v)}>
        <Tabs.List aria-label="Gait" className="flex gap-1">
          {record.gaits.map((g) => (
            <Tabs.Trigger
              key={g.gait}
              value={g.gait}
              className="text-soft data-[state=active]:text-ink data-[state=active]:border-clay min-h-9 border-b-3 border-transparent px-2"
            >
              {g.name} <span className="font-mono text-xs">{g.strides}</span>
            </Tabs.Trigger>
          ))}
        </Tabs.List>
        {record.gaits.map((g) => (
          <Tabs.Content key={g.gait} value={g.gait} className="hidden" />
        ))}
      </Tabs.Root>
      <Choice
        label="Variant"
        value={query.variant ?? record.variant ?? "any"}
        onChange={(v) => onSet("variant", v)}
      >
        <option value="any">all</option>
        {variants.map((o) => (
          <option key={o}>{o}</option>
        ))}
      </Choice>
      <Choice
        label="Movement"
        value={query.movement ?? record.movement ?? "none"}
        onChange={(v) => onSet("movement", v)}
      >
        <option value="any">all</option>
        {(record.movement === null || query.movement === "none" || movements.length === 0) && (
          <option value="none">none said</option>
        )}
        {movements.map((o) => (
          <option key={o}>{o}</option>
        ))}
      </Choice>
      {(["from", "to"] as const).map((end) => (
        <DayField
          key={end}
          label={end === "from" ? "From" : "To"}
          value={query[end] ?? ""}
          onChange={(day) => onSet(end, day || null)}
        />
      ))}
      {lists.map(([name, label, options]) => (
        <Choice
          key={name}
          label={label}
          value={query[name] ?? ""}
          onChange={(v) => onSet(name, v || null)}
        >
          <option value="">all</option>
          {options.map((o) => (
            <option key={o}>{o}</option>
          ))}
        </Choice>
      ))}
      {record.left_out > 0 && (
        <p className="text-soft pb-1.5 text-sm">
          {record.left_out} {record.left_out === 1 ? "bout" : "bouts"} of this gait left out
        </p>
      )}
    </div>
  );
}
