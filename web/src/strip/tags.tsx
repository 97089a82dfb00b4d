import type { Tag } from "../live/clip-store";
import { tagInShort, useMovements } from "../live/tag-words";
import { TAGS, TAGS_TOP } from "./rows";

type Props = {
  tags: readonly Tag[];
  x: (us: number) => number;
  width: number;
  /** Where a stretch that has begun and not ended reaches to, µs. */
  end: number;
};

/** What was ridden, aids, letters and notes: a row between bouts and lanes. */
export function Tags({ tags, x, width, end }: Props) {
  const movements = useMovements();
  return tags.map((tag) => {
    const from = x(tag.from_us);
    const words = tagInShort(tag, movements);
    const { kind } = tag.what;
    if (kind === "ridden" || kind === "unseen") {
      const to = x(tag.to_us ?? end);
      if (to < 0 || from > width) return null;
      const left = Math.max(0, from);
      const wide = Math.max(2, Math.min(width, to) - left - 1);
      return (
        <g key={tag.id}>
          <title>{words}</title>
          <rect
            x={left + 0.5}
            y={TAGS_TOP + 1.5}
            width={wide}
            height={TAGS - 4}
            fill={kind === "unseen" ? "var(--dune)" : "none"}
            stroke="var(--soft)"
            strokeDasharray={kind === "unseen" ? "3 3" : undefined}
          />
          {wide > words.length * 6.2 && (
            <text x={left + 6} y={TAGS_TOP + 14} fontSize={13} fill="var(--ink)">
              {words}
            </text>
          )}
        </g>
      );
    }
    if (from < -60 || from > width + 4) return null;
    return (
      <g key={tag.id}>
        <title>{words}</title>
        <line
          x1={from}
          x2={from}
          y1={TAGS_TOP}
          y2={TAGS_TOP + TAGS + 3}
          stroke="var(--clay)"
          strokeWidth={kind === "aid" ? 2 : 1}
          strokeDasharray={kind === "aid" ? undefined : "2 2"}
        />
        <text x={from + 3} y={TAGS_TOP + 14} fontSize={13} fill="var(--clay)">
          {kind === "note" ? "“…”" : words}
        </text>
      </g>
    );
  });
}
