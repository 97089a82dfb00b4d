import { useState } from "react";

import { Field } from "../ui/field";

type Props = {
  label: string;
  unit: string;
  value: number | null;
  onSave: (value: number) => void;
};

/** A number that is taken over when it is whole: on Enter, or when the field is left. */
export function NumberField({ label, unit, value, onSave }: Props) {
  const [text, setText] = useState<string | null>(null);
  const save = () => {
    const number = Number((text ?? "").replace(",", "."));
    if (text !== null && text.trim() !== "" && Number.isFinite(number) && number !== value) {
      onSave(number);
    }
    setText(null);
  };
  return (
    <Field
      label={label}
      unit={unit}
      inputMode="decimal"
      className="w-20 text-right font-mono"
      value={text ?? (value === null ? "" : String(value))}
      onChange={(e) => setText(e.target.value)}
      onBlur={save}
      onKeyDown={(e) => e.key === "Enter" && save()}
    />
  );
}
