import { Checkbox, Switch } from "radix-ui";
import type { ReactNode } from "react";

type Props = {
  checked: boolean;
  onChange: (checked: boolean) => void;
  children: ReactNode;
};

/** One of several things that may be so. */
export function Tick({ checked, onChange, children }: Props) {
  return (
    <label className="flex min-h-8 items-center gap-2">
      <Checkbox.Root
        checked={checked}
        onCheckedChange={(now) => onChange(now === true)}
        // As in any field, Enter is for the whole form.
        onKeyDown={(e) => e.key === "Enter" && e.currentTarget.form?.requestSubmit()}
        className="border-soft bg-chalk data-[state=checked]:bg-ink data-[state=checked]:border-ink flex size-[18px] shrink-0 items-center justify-center rounded-[3px] border"
      >
        <Checkbox.Indicator>
          <svg width="12" height="10" aria-hidden className="text-sand">
            <path d="M1 5L4.5 8.5L11 1" fill="none" stroke="currentColor" strokeWidth="2" />
          </svg>
        </Checkbox.Indicator>
      </Checkbox.Root>
      {children}
    </label>
  );
}

/** Something that is on or off. */
export function OnOff({ checked, onChange, children }: Props) {
  return (
    <label className="flex min-h-9 items-center gap-2">
      <Switch.Root
        checked={checked}
        onCheckedChange={onChange}
        className="border-soft bg-chalk data-[state=checked]:bg-ink data-[state=checked]:border-ink flex h-[18px] w-8 shrink-0 items-center rounded-[9px] border px-[2px]"
      >
        <Switch.Thumb className="bg-soft data-[state=checked]:bg-sand block size-3 rounded-full transition-transform data-[state=checked]:translate-x-[13px]" />
      </Switch.Root>
      {children}
    </label>
  );
}
