import type { Schemas } from "../api/client";

type Bout = Schemas["BoutSaid"];
type Cell = string | number | null | undefined;

export const BOUT_COLUMNS = [
  ...["bout", "label", "rein", "from_s", "to_s", "strides"],
  ...["figure", "value", "lo", "hi", "sd", "n"],
];

/** Every figure of every bout, a row each, by its name in the analysis and in its units. */
export function boutRows(bouts: readonly Bout[]): Cell[][] {
  return bouts.flatMap((b, k) => {
    const head = [k + 1, b.label, b.rein, b.start_s, b.end_s, b.strides];
    return figuresIn(b, "").map(([name, e]) => [
      ...head,
      ...[name, e.value, e.ci95?.[0], e.ci95?.[1], e.sd, e.n],
    ]);
  });
}

type Figure = { value: number; ci95?: number[] | null; sd?: number | null; n?: number };

function isFigure(v: unknown): v is Figure {
  return typeof v === "object" && v !== null && "value" in v && typeof v.value === "number";
}

function figuresIn(of: object, path: string): [string, Figure][] {
  return Object.entries(of).flatMap(([key, v]: [string, unknown]): [string, Figure][] => {
    const name = path ? `${path}.${key}` : key;
    if (isFigure(v)) return [[name, v]];
    return typeof v === "object" && v !== null ? figuresIn(v, name) : [];
  });
}
