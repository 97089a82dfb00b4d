import { LETTERS } from "../../live/tag-words";
import { Sheet } from "./sheet";
import { useSheetKeys } from "./use-sheet-keys";

type Props = { open: boolean; onClose: () => void; onChoose: (letter: string) => void };

/** The letter that the rider's knee passes at this frame: press it. */
export function LetterSheet({ open, onClose, onChoose }: Props) {
  const choose = (letter: string) => {
    onClose();
    onChoose(letter);
  };
  useSheetKeys(open, (pressed) => {
    const letter = pressed.toUpperCase();
    const known = LETTERS.includes(letter);
    if (known) choose(letter);
    return known;
  });
  return (
    <Sheet open={open} title="Which letter is passed here?" onClose={onClose}>
      <p className="text-soft text-sm">Press it. Take the frame in which the knee passes it.</p>
      <div className="mt-3 flex flex-wrap gap-1">
        {LETTERS.map((letter) => (
          <button
            key={letter}
            type="button"
            onClick={() => choose(letter)}
            className="hover:bg-dune border-line min-h-11 min-w-11 rounded-[3px] border font-mono text-lg"
          >
            {letter}
          </button>
        ))}
      </div>
    </Sheet>
  );
}
