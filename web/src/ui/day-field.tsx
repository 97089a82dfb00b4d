import { Popover } from "radix-ui";
import { type KeyboardEvent, useEffect, useId, useRef, useState } from "react";

import { inFull, today } from "./dates";
import { dayOf, daysOn, monthsOn, weeksOf } from "./month";

type Props = {
  label: string;
  /** `YYYY-MM-DD`, or nothing. */
  value: string;
  onChange: (value: string) => void;
  /** In a row: without its label above. */
  bare?: boolean;
};

const WEEKDAYS = ["Mo", "Tu", "We", "Th", "Fr", "Sa", "Su"];
const MONTH = new Intl.DateTimeFormat("en-GB", { month: "long", year: "numeric", timeZone: "UTC" });

/** A day, written or chosen of a month; the same in every browser. */
export function DayField({ label, value, onChange, bare = false }: Props) {
  const id = useId();
  const [written, setWritten] = useState<string | null>(null);
  const [open, setOpen] = useState(false);
  const take = () => {
    if (written === null) return;
    const day = dayOf(written, today());
    if (day !== null || written.trim() === "") onChange(day ?? "");
    setWritten(null);
  };
  return (
    <div className="flex flex-col">
      {!bare && (
        <label htmlFor={id} className="text-soft text-sm">
          {label}
        </label>
      )}
      <span className="border-line bg-chalk focus-within:border-ink flex min-h-9 items-stretch rounded-[3px] border">
        <input
          id={id}
          aria-label={bare ? label : undefined}
          inputMode="numeric"
          placeholder="year-month-day"
          value={written ?? value}
          onChange={(e) => setWritten(e.target.value)}
          onBlur={take}
          onKeyDown={(e) => e.key === "Enter" && take()}
          className="w-29 rounded-[3px] px-2"
        />
        <Popover.Root open={open} onOpenChange={setOpen}>
          <Popover.Trigger
            aria-label={`Choose: ${label}`}
            className="text-soft hover:text-ink flex w-8 items-center justify-center"
          >
            <svg width="15" height="14" aria-hidden fill="none" stroke="currentColor">
              <path d="M0.5 2.5h14v11h-14zM0.5 5.5h14M4 0.5v3M11 0.5v3" />
            </svg>
          </Popover.Trigger>
          <Popover.Portal>
            <Popover.Content
              sideOffset={3}
              align="end"
              className="bg-chalk border-ink z-50 rounded-[3px] border p-2 shadow-md"
            >
              <Month
                day={value || today()}
                onTake={(day) => {
                  onChange(day);
                  setOpen(false);
                }}
              />
            </Popover.Content>
          </Popover.Portal>
        </Popover.Root>
      </span>
    </div>
  );
}

const MOVES: Record<string, (day: string) => string> = {
  ArrowLeft: (day) => daysOn(day, -1),
  ArrowRight: (day) => daysOn(day, 1),
  ArrowUp: (day) => daysOn(day, -7),
  ArrowDown: (day) => daysOn(day, 7),
  PageUp: (day) => monthsOn(day, -1),
  PageDown: (day) => monthsOn(day, 1),
};

/** A month to choose a day of: by mouse, or by arrows and Enter. */
function Month({ day, onTake }: { day: string; onTake: (day: string) => void }) {
  const [at, setAt] = useState(day);
  const chosen = useRef<HTMLButtonElement>(null);
  useEffect(() => chosen.current?.focus(), [at]);
  const onKeyDown = (e: KeyboardEvent) => {
    const move = MOVES[e.key];
    if (!move) return;
    e.preventDefault();
    setAt(move(at));
  };
  const turn = "hover:bg-dune size-9 rounded-[3px]";
  return (
    <>
      <div className="flex items-center justify-between">
        <button
          type="button"
          className={turn}
          aria-label="Month before"
          onClick={() => setAt(monthsOn(at, -1))}
        >
          ‹
        </button>
        <span aria-live="polite" className="font-medium">
          {MONTH.format(new Date(`${at}T00:00:00Z`))}
        </span>
        <button
          type="button"
          className={turn}
          aria-label="Next month"
          onClick={() => setAt(monthsOn(at, 1))}
        >
          ›
        </button>
      </div>
      <div className="grid grid-cols-7" role="presentation" onKeyDown={onKeyDown}>
        {WEEKDAYS.map((d) => (
          <span key={d} className="text-soft py-1 text-center text-sm">
            {d}
          </span>
        ))}
        {weeksOf(at)
          .flat()
          .map((d, k) =>
            d === null ? (
              <span key={`empty ${k}`} />
            ) : (
              <button
                key={d}
                ref={d === at ? chosen : undefined}
                type="button"
                tabIndex={d === at ? 0 : -1}
                aria-label={inFull(d)}
                aria-pressed={d === day}
                onClick={() => onTake(d)}
                className={`size-9 rounded-[3px] ${d === day ? "bg-ink text-sand" : "hover:bg-dune"} ${d === today() ? "font-bold" : ""}`}
              >
                {Number(d.slice(8))}
              </button>
            ),
          )}
      </div>
    </>
  );
}
