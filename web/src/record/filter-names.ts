/** The filters that stand in the address, so that a view can be kept and sent. */
export const FILTERS = [
  "from",
  "to",
  "gait",
  "variant",
  "movement",
  "surface",
  "rider",
  "rein",
  "rate",
] as const;
export type FilterName = (typeof FILTERS)[number];
