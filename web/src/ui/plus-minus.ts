import type { Schemas } from "../api/client";

/** `98.5 ± 0.6`, or the bare value where no error is known. */
export function plusMinus(e: Schemas["Estimate"], scale: number, digits: number): string {
  // A minus before nothing says nothing.
  const value = (e.value * scale).toFixed(digits).replace(/^-(0(?:\.0*)?)$/, "$1");
  if (!e.ci95) return value;
  const half = (((e.ci95[1] ?? 0) - (e.ci95[0] ?? 0)) / 2) * scale;
  return `${value} ± ${half.toFixed(digits)}`;
}
