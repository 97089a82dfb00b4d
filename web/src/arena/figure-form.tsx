import type { ReactNode } from "react";

import type { Schemas } from "../api/client";
import { NumberField } from "../ui/number-field";
import { Choice, Count } from "../ui/choice";
import { linesOf, type Wish } from "./wish";
import { Slider } from "../ui/slider";

type Props = {
  wish: Wish;
  onWish: (wish: Wish) => void;
  letters: readonly Schemas["Letter"][];
  children: ReactNode;
};

/** Arena, figure and its sizes. */
export function FigureForm({ wish, onWish, letters, children }: Props) {
  const set = (change: Partial<Wish>) => onWish({ ...wish, ...change });
  const { width_m: w, length_m: l } = wish.arena;
  const known = w === 20 && (l === 60 || l === 40);
  const lines = linesOf(wish.arena);
  const resize = (arena: Wish["arena"]) => {
    const first = linesOf(arena)[0];
    set({ arena, from: first?.[1] ?? "A", to: first?.[2] ?? "C" });
  };
  const line = `${wish.from}|${wish.to}`;
  return (
    <form className="flex flex-col gap-3" onSubmit={(e) => e.preventDefault()}>
      <Choice
        label="Arena"
        value={known ? `${l}` : "free"}
        onChange={(v) =>
          resize(
            v === "free" ? { width_m: 25, length_m: 50 } : { width_m: 20, length_m: Number(v) },
          )
        }
      >
        <option value="60">20 × 60 m</option>
        <option value="40">20 × 40 m</option>
        <option value="free">another size</option>
      </Choice>
      {!known && (
        <div className="flex gap-3">
          <NumberField
            label="Wide"
            unit="m"
            value={w}
            onSave={(v) => resize({ width_m: v, length_m: l })}
          />
          <NumberField
            label="Long"
            unit="m"
            value={l}
            onSave={(v) => resize({ width_m: w, length_m: v })}
          />
        </div>
      )}
      <Choice label="Figure" value={wish.kind} onChange={(v) => set({ kind: v as Wish["kind"] })}>
        <option value="circle">circle or volte on a line</option>
        <option value="line">line: diagonal, half-pass, changes</option>
        <option value="serpentine">serpentine</option>
        <option value="spiral">spiral</option>
      </Choice>
      {(wish.kind === "circle" || wish.kind === "line") && (
        <>
          <Choice
            label="Line"
            value={lines.some(([, a, b]) => `${a}|${b}` === line) ? line : "own"}
            onChange={(v) => {
              const [from, to] = v.split("|");
              if (from && to) set({ from, to });
            }}
          >
            {lines.map(([name, a, b]) => (
              <option key={name} value={`${a}|${b}`}>
                {name}
              </option>
            ))}
            <option value="own">between two letters …</option>
          </Choice>
          <div className="flex gap-3">
            {(["from", "to"] as const).map((end) => (
              <Choice
                key={end}
                label={end === "from" ? "From" : "To"}
                value={wish[end]}
                onChange={(v) => set({ [end]: v })}
              >
                {!letters.some((p) => p.name === wish[end]) && (
                  <option value={wish[end]}>{wish[end]}</option>
                )}
                {letters.map((p) => (
                  <option key={p.name}>{p.name}</option>
                ))}
              </Choice>
            ))}
          </div>
        </>
      )}
      {wish.kind === "circle" && (
        <>
          <Choice
            label="Diameter"
            value={`${wish.diameter_m}`}
            onChange={(v) => set({ diameter_m: Number(v) })}
          >
            {[6, 8, 10, 12, 15, 18, 20].map((d) => (
              <option key={d} value={d}>
                {d} m{d <= 10 ? " (volte)" : ""}
              </option>
            ))}
          </Choice>
          <div className="flex flex-col">
            <span className="text-soft text-sm">
              Touches the line {wish.at_m.toFixed(1)} m from its start
            </span>
            <Slider
              label="Touches the line, metres from its start"
              min={0}
              max={62}
              step={0.5}
              value={wish.at_m}
              onChange={(at_m) => set({ at_m })}
            />
          </div>
        </>
      )}
      {wish.kind === "serpentine" && (
        <Count label="Loops" value={wish.loops} most={12} onChange={(loops) => set({ loops })} />
      )}
      {wish.kind === "spiral" && (
        <div className="flex gap-3">
          <NumberField
            label="From"
            unit="m"
            value={wish.diameter_m}
            onSave={(diameter_m) => set({ diameter_m })}
          />
          <NumberField
            label="To"
            unit="m"
            value={wish.small_m}
            onSave={(small_m) => set({ small_m })}
          />
          <Count
            label="Rounds"
            value={wish.rounds}
            most={12}
            onChange={(rounds) => set({ rounds })}
          />
        </div>
      )}
      {wish.kind === "line" && (
        <div className="flex gap-3">
          <Count
            label="Changes"
            value={wish.changes}
            most={30}
            onChange={(changes) => set({ changes })}
          />
          <Count
            label="every … strides"
            value={wish.every}
            most={8}
            onChange={(every) => set({ every })}
          />
        </div>
      )}
      {wish.kind !== "line" && (
        <Choice
          label={wish.kind === "serpentine" ? "First loop to the" : "Side"}
          value={wish.side}
          onChange={(v) => set({ side: v === "left" ? "left" : "right" })}
        >
          <option value="left">left</option>
          <option value="right">right</option>
        </Choice>
      )}
      {children}
      <Count
        label="Strides counted on it (0: none)"
        least={0}
        value={wish.counted ?? 0}
        most={500}
        onChange={(n) => set({ counted: n || null })}
      />
    </form>
  );
}
