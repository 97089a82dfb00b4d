import type { ComponentProps } from "react";

type Props = ComponentProps<"input"> & { label: string; unit?: string };

/** A labelled line to write on. */
export function Field({ label, unit, className = "", ...rest }: Props) {
  return (
    <label className="flex flex-col gap-0.5">
      <span className="text-soft text-sm">{label}</span>
      <span className="flex items-baseline gap-1">
        <input
          className={`border-line focus:border-ink bg-chalk min-h-9 rounded-[3px] border px-2 ${className}`}
          {...rest}
        />
        {unit && <span className="text-soft text-sm">{unit}</span>}
      </span>
    </label>
  );
}
