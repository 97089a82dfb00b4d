import { type FormEvent, useState } from "react";

import { Button } from "../../ui/button";
import { Sheet } from "./sheet";

type Props = { open: boolean; onClose: () => void; onWrite: (text: string) => void };

/** A note at this frame. */
export function NoteSheet({ open, onClose, onWrite }: Props) {
  const [text, setText] = useState("");
  const submit = (e: FormEvent) => {
    e.preventDefault();
    if (!text.trim()) return;
    onWrite(text.trim());
    setText("");
    onClose();
  };
  return (
    <Sheet open={open} title="What do you see here?" onClose={onClose}>
      <form onSubmit={submit} className="mt-3 flex gap-2">
        <input
          aria-label="Note"
          maxLength={500}
          value={text}
          onChange={(e) => setText(e.target.value)}
          className="border-line focus:border-ink min-h-10 grow rounded-[3px] border px-2"
        />
        <Button type="submit">Write it down</Button>
      </form>
    </Sheet>
  );
}
