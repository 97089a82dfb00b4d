import { Select } from "radix-ui";
import {
  Children,
  type ComponentProps,
  Fragment,
  isValidElement,
  type ReactNode,
  useId,
} from "react";

type Option = { value: string; says: string };

type ChoiceProps = {
  label: string;
  value: string;
  onChange: (value: string) => void;
  /** The words to choose from, as `<option>` elements. */
  children: ReactNode;
  /** `line`: among words, without its label; `bare`: in a row, without its label. */
  look?: "box" | "line" | "bare";
  className?: string;
};

/** Stands for an empty value, which a list of choices cannot hold. */
const EMPTY = "\u2013";

const BOX = "border-line focus:border-ink bg-chalk min-h-9 rounded-[3px] border px-2";
const LINE = "border-line text-ink hover:border-ink min-h-7 cursor-pointer border-b";

/** A labelled list of words to choose from. Keys go back to where they belong once it is closed. */
export function Choice({
  label,
  value,
  onChange,
  children,
  look = "box",
  className = "",
}: ChoiceProps) {
  const id = useId();
  const options = optionsOf(children);
  const chosen = options.find((o) => o.value === value);
  const choice = (
    <Select.Root
      value={value === "" ? EMPTY : value}
      onValueChange={(v) => onChange(v === EMPTY ? "" : v)}
    >
      <Select.Trigger
        {...(look === "box" ? { "aria-labelledby": id } : { "aria-label": label })}
        className={`inline-flex max-w-full items-center gap-1.5 text-left ${look === "line" ? LINE : BOX} ${className}`}
      >
        <span className="min-w-0 grow truncate">
          <Select.Value>{chosen?.says ?? value}</Select.Value>
        </span>
        <Select.Icon className="text-soft shrink-0">
          <svg width="9" height="6" aria-hidden>
            <path d="M0.5 0.5L4.5 5L8.5 0.5" fill="none" stroke="currentColor" />
          </svg>
        </Select.Icon>
      </Select.Trigger>
      <Select.Portal>
        <Select.Content
          position="popper"
          sideOffset={2}
          className="bg-chalk border-ink z-50 max-h-[min(24rem,var(--radix-select-content-available-height))] min-w-(--radix-select-trigger-width) overflow-auto rounded-[3px] border text-[1rem] shadow-md"
          // Keys belong to the footage: a choice made gives them back.
          onCloseAutoFocus={(e) => look === "line" && e.preventDefault()}
        >
          <Select.Viewport>
            {options.map((o) => (
              <Select.Item
                key={o.value}
                value={o.value === "" ? EMPTY : o.value}
                className="data-[highlighted]:bg-dune flex min-h-9 cursor-pointer items-center px-3 outline-none data-[state=checked]:font-medium"
              >
                <Select.ItemText>{o.says}</Select.ItemText>
              </Select.Item>
            ))}
          </Select.Viewport>
        </Select.Content>
      </Select.Portal>
    </Select.Root>
  );
  if (look !== "box") return choice;
  return (
    <div className="flex flex-col">
      <span id={id} className="text-soft text-sm">
        {label}
      </span>
      {choice}
    </div>
  );
}

function optionsOf(children: ReactNode): Option[] {
  return Children.toArray(children).flatMap((child): Option[] => {
    if (!isValidElement(child)) return [];
    if (child.type === Fragment) {
      return optionsOf((child.props as { children?: ReactNode }).children);
    }
    const { value, children: words } = child.props as ComponentProps<"option">;
    const says = wordsOf(words);
    return [{ value: value === undefined ? says : String(value), says }];
  });
}

function wordsOf(words: ReactNode): string {
  return Children.toArray(words)
    .filter((w) => typeof w === "string" || typeof w === "number")
    .join("");
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
