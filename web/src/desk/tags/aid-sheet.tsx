import { AIDS } from "../../live/tag-words";
import { Sheet } from "./sheet";
import { useSheetKeys } from "./use-sheet-keys";

type Props = { open: boolean; onClose: () => void; onChoose: (asked: string) => void };

/** The aid given at this frame: one key each. */
export function AidSheet({ open, onClose, onChoose }: Props) {
  const choose = (asked: string) => {
    onClose();
    onChoose(asked);
  };
  useSheetKeys(open, (pressed) => {
    const aid = AIDS.find(([key]) => key === pressed);
    if (aid) choose(aid[1]);
    return aid !== undefined;
  });
  return (
    <Sheet open={open} title="Which aid is given here?" onClose={onClose}>
      <div className="mt-3 grid grid-cols-2 gap-1">
        {AIDS.map(([key, asked, words]) => (
          <button
            key={asked}
            type="button"
            onClick={() => choose(asked)}
            className="hover:bg-dune flex min-h-10 items-center gap-3 rounded-[3px] px-2 text-left"
          >
            <kbd className="text-clay w-4 font-mono">{key.toUpperCase()}</kbd>
            {words}
          </button>
        ))}
      </div>
    </Sheet>
  );
}
