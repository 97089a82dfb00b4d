import { Dialog } from "radix-ui";
import { useState } from "react";

import { inWords } from "../api/client";
import { Button } from "../ui/button";
import { GROUPS, type KeyMap, keyName, type Changed, type Row } from "../live/keys";

type Props = {
  open: boolean;
  onOpenChange: (open: boolean) => void;
  keys: KeyMap;
  change: (keys: Changed) => void;
  trouble: Error | null;
};

/** All keys of the desk; each can be changed. */
export function KeyHelp({ open, onOpenChange, keys, change, trouble }: Props) {
  const [waiting, setWaiting] = useState<string | null>(null);
  const take = (row: Row, e: React.KeyboardEvent) => {
    if (waiting !== row.id) return;
    const key = keyName(e.nativeEvent);
    if (key === undefined) return;
    e.preventDefault();
    e.stopPropagation();
    setWaiting(null);
    if (key !== "Escape" || row.id === "release") change(keys.with(row, key));
  };
  return (
    <Dialog.Root open={open} onOpenChange={onOpenChange}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 bg-black/40" />
        <Dialog.Content
          aria-describedby={undefined}
          onEscapeKeyDown={(e) => {
            if (waiting !== null) e.preventDefault();
          }}
          className="bg-chalk fixed top-1/2 left-1/2 max-h-[94dvh] w-[64rem] max-w-[96vw] -translate-x-1/2 -translate-y-1/2 overflow-auto rounded-[3px] p-5"
        >
          <Dialog.Title className="text-xl font-medium">
            The right hand marks, the left moves time.
          </Dialog.Title>
          <p className="text-soft text-sm">
            To change a key choose it and press another; Escape leaves it as it was.
          </p>
          <div className="mt-2 columns-3 gap-7 max-lg:columns-2">
            {GROUPS.map((group) => (
              <section key={group.title} className="mb-2">
                <h3 className="border-line border-b font-medium">{group.title}</h3>
                {group.rows.map((row) => (
                  <div key={row.id} className="flex break-inside-avoid items-baseline gap-2">
                    <button
                      type="button"
                      aria-label={`Key for: ${row.says}`}
                      aria-pressed={waiting === row.id}
                      onClick={() => setWaiting(waiting === row.id ? null : row.id)}
                      onKeyDown={(e) => take(row, e)}
                      onBlur={() => setWaiting(null)}
                      className={`min-h-6 w-[5.6rem] shrink-0 rounded-[3px] px-1 text-left font-mono text-[0.8rem] ${waiting === row.id ? "bg-clay text-sand" : "hover:bg-dune"}`}
                    >
                      {waiting === row.id ? "press …" : keys.keysOf(row).join(" ")}
                    </button>
                    <span className="text-[0.92rem] leading-tight">{row.says}</span>
                  </div>
                ))}
              </section>
            ))}
          </div>
          <p className="text-soft mt-2 text-sm">
            A footfall is the first frame in which the hoof touches the ground, heel, flat or toe; a
            lift-off the first frame in which it is clear. Step to the frame and tap: a mark made
            while the footage plays is less exact, and its error is counted so.
          </p>
          {trouble && <p role="alert">{inWords(trouble)}</p>}
          <div className="mt-3 flex gap-3">
            <Dialog.Close asChild>
              <Button>Close</Button>
            </Dialog.Close>
            <Button plain onClick={() => change({})}>
              All keys as they came
            </Button>
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
