import type { ReactNode } from "react";

type ChoiceProps = {
  label: string;
  value: string;
  onChange: (value: string) => void;
  children: ReactNode;
};

/** A labelled list of words to choose from. */
export function Choice({ label, value, onChange, children }: ChoiceProps) {
  return (
    <label className="flex flex-col">
      <span className="text-soft text-sm">{label}</span>
      <select
        value={value}
        onChange={(e) => onChange(e.target.value)}
        className="border-line focus:border-ink bg-chalk min-h-9 rounded-[3px] border px-1"
      >
        {children}
      </select>
    </label>
  );
}

type CountProps = {
  label: string;
  value: number;
  least?: number;
  most: number;
  onChange: (value: number) => void;
};

/** A labelled whole number. */
export function Count({ label, value, least = 1, most, onChange }: CountProps) {
  return (
    <label className="flex flex-col">
      <span className="text-soft text-sm">{label}</span>
      <input
        type="number"
        min={least}
        max={most}
        value={value}
        onChange={(e) =>
          onChange(Math.min(most, Math.max(least, Math.round(Number(e.target.value)))))
        }
        className="border-line focus:border-ink min-h-9 w-24 rounded-[3px] border px-2"
      />
    </label>
  );
}
