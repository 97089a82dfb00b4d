type ClickedProps = {
  rows: readonly { key: string; says: string; more?: string | undefined }[];
  onTake: (key: string) => void;
};

/** Points that were clicked, each to be taken away again. */
export function Clicked({ rows, onTake }: ClickedProps) {
  if (rows.length === 0) return null;
  return (
    <ul className="mb-1.5">
      {rows.map((r) => (
        <li key={r.key} className="flex items-baseline gap-2 text-[0.95rem]">
          <span className="grow">{r.says}</span>
          {r.more && <span className="text-soft font-mono text-[0.83rem]">{r.more}</span>}
          <button
            type="button"
            className="text-clay min-h-7 px-1 underline underline-offset-3"
            onClick={() => onTake(r.key)}
          >
            take away
          </button>
        </li>
      ))}
    </ul>
  );
}
