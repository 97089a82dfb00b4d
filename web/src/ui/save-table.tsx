import { saveFile } from "./save-file";

type Cell = string | number | null | undefined;
type Props = {
  /** Name of the file. */
  name: string;
  columns: readonly string[];
  rows: () => readonly (readonly Cell[])[];
};

/** Takes a table along as a CSV file: plain numbers, one value a cell. */
export function SaveTable({ name, columns, rows }: Props) {
  const save = () => saveFile(`${name}.csv`, asCsv(columns, rows()), "text/csv;charset=utf-8");
  return (
    <button
      type="button"
      onClick={save}
      aria-label={`Save ${name} as CSV`}
      className="text-clay min-h-7 px-1 text-sm underline underline-offset-3"
    >
      CSV
    </button>
  );
}

/** A table as RFC 4180 has it. */
export function asCsv(columns: readonly string[], rows: readonly (readonly Cell[])[]): string {
  const cell = (v: Cell) => {
    const text = v === null || v === undefined ? "" : String(v);
    return /[",\r\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text;
  };
  return [columns, ...rows].map((r) => r.map(cell).join(",") + "\r\n").join("");
}

/** An estimate as three cells: value and the ends of its interval. */
export function threeCells(
  e: { value: number; ci95?: number[] | null } | null | undefined,
): [Cell, Cell, Cell] {
  return [e?.value, e?.ci95?.[0], e?.ci95?.[1]];
}
