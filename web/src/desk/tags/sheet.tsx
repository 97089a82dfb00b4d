import { Dialog } from "radix-ui";
import type { ReactNode } from "react";

type Props = {
  open: boolean;
  title: string;
  onClose: () => void;
  children: ReactNode;
};

/** A sheet over the desk that has the keys until it is closed. */
export function Sheet({ open, title, onClose, children }: Props) {
  return (
    <Dialog.Root open={open} onOpenChange={(now) => (now ? undefined : onClose())}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 bg-black/40" />
        <Dialog.Content
          aria-describedby={undefined}
          className="bg-chalk fixed top-1/2 left-1/2 max-h-[94dvh] w-[40rem] max-w-[94vw] -translate-x-1/2 -translate-y-1/2 overflow-auto rounded-[3px] p-5"
        >
          <Dialog.Title className="text-xl font-medium">{title}</Dialog.Title>
          {children}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
