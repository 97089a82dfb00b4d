import { Tooltip } from "radix-ui";
import type { ReactElement } from "react";

/** More words about something, shown when it is pointed at or reached by key. */
export function Hint({ says, children }: { says: string; children: ReactElement }) {
  return (
    <Tooltip.Provider delayDuration={300}>
      <Tooltip.Root>
        <Tooltip.Trigger asChild>{children}</Tooltip.Trigger>
        <Tooltip.Portal>
          <Tooltip.Content
            sideOffset={4}
            className="bg-ink text-sand z-50 max-w-72 rounded-[3px] px-2 py-1 text-sm"
          >
            {says}
          </Tooltip.Content>
        </Tooltip.Portal>
      </Tooltip.Root>
    </Tooltip.Provider>
  );
}
