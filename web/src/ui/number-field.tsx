import { useState } from "react";

import { Field } from "./field";

type Props = {
  label: string;
  unit: string;
  value: number | null;
  onSave: (value: number) => void;
  /** Taken over with every letter: for what is not saved yet. */
  live?: boolean;
};

/** A number that is taken over when it is whole: on Enter, or when the field is left. */
export function NumberField({ label, unit, value, onSave, live = false }: Props) {
  const [text, setText] = useState<string | null>(null);
  const take = (written: string | null) => {
    const number = Number((written ?? "").replace(",", "."));
    const whole = written !== null && written.trim() !== "" && Number.isFinite(number);
    if (whole && number !== value) onSave(number);
  };
  const save = () => {
    take(text);
    setText(null);
  };
  return (
    <Field
      label={label}
      unit={unit}
      inputMode="decimal"
      className="w-20 text-right font-mono"
      value={text ?? (value === null ? "" : String(value))}
      onChange={(e) => {
        setText(e.target.value);
        if (live) take(e.target.value);
      }}
      onBlur={save}
      onKeyDown={(e) => e.key === "Enter" && save()}
    />
  );
}
