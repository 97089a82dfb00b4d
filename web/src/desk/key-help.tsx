import { Dialog } from "radix-ui";

import { Button } from "../ui/button";
import { KEYS } from "./keys";

type Props = { open: boolean; onOpenChange: (open: boolean) => void };

/** All keys of the desk. */
export function KeyHelp({ open, onOpenChange }: Props) {
  return (
    <Dialog.Root open={open} onOpenChange={onOpenChange}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 bg-black/40" />
        <Dialog.Content
          aria-describedby={undefined}
          className="bg-chalk fixed top-1/2 left-1/2 max-h-[90dvh] w-[46rem] max-w-[94vw] -translate-x-1/2 -translate-y-1/2 overflow-auto rounded-[3px] p-6"
        >
          <Dialog.Title className="text-xl font-medium">
            The right hand marks, the left moves time.
          </Dialog.Title>
          <dl className="mt-4 columns-2 gap-8">
            {KEYS.map((row) => (
              <div key={row.keys[0]} className="flex break-inside-avoid gap-3 py-0.5">
                <dt className="w-24 shrink-0 font-mono text-sm">{row.keys.join(" ")}</dt>
                <dd>{row.says}</dd>
              </div>
            ))}
          </dl>
          <p className="text-soft mt-4 text-sm">
            A footfall is the first frame in which the hoof touches the ground, heel, flat or toe; a
            lift-off the first frame in which it is clear. Step to the frame and tap: a mark made
            while the footage plays is less exact, and its error is counted so.
          </p>
          <Dialog.Close asChild>
            <Button className="mt-4">Close</Button>
          </Dialog.Close>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
