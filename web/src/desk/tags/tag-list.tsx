import { Button } from "../../ui/button";
import type { DeskStore, Tag } from "../../live/clip-store";
import { tagInShort, useMovements } from "../../live/tag-words";
import { removeTag } from "./tagging";

type Props = {
  tags: readonly Tag[];
  store: DeskStore;
  slow: number;
  jump: (seconds: number) => void;
  onRidden: () => void;
};

const KINDS = {
  aid: "aid",
  letter: "letter",
  note: "note",
  unseen: "out of view",
  ridden: "ridden",
  still: "still",
};

/** All that is marked beside footfalls, in order of time. */
export function TagList({ tags, store, slow, jump, onRidden }: Props) {
  const movements = useMovements();
  if (tags.length === 0) {
    return (
      <div className="text-soft py-3">
        <p>
          Nothing is marked beside the footfalls yet. Say what was ridden and tempi, drills,
          pirouettes and lateral work are read against it; mark the aid and answers are timed.
        </p>
        <Button className="mt-2" onClick={onRidden}>
          Say what was ridden here
        </Button>
      </div>
    );
  }
  return (
    <ul>
      {tags.map((tag) => (
        <li key={tag.id} className="border-line flex items-center gap-2 border-b">
          <button
            type="button"
            onClick={() => jump(tag.from_us / 1e6 / slow)}
            className="hover:bg-dune flex min-h-9 grow items-baseline gap-3 rounded-[3px] px-1 text-left"
          >
            <span className="font-mono text-[0.87rem]">
              {(tag.from_us / 1e6 / slow).toFixed(2)} s
            </span>
            <span className="text-soft w-20 shrink-0 text-sm">{KINDS[tag.what.kind]}</span>
            <span className="grow">
              {tag.what.kind === "unseen" ? "" : tagInShort(tag, movements)}
            </span>
          </button>
          <Button
            plain
            aria-label={`Remove ${tagInShort(tag, movements)}`}
            onClick={() => removeTag(store, tag)}
          >
            Remove
          </Button>
        </li>
      ))}
    </ul>
  );
}
