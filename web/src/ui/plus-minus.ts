import type { Schemas } from "../api/client";

/** `98.5 ± 0.6`, or the bare value where no error is known. */
export function plusMinus(e: Schemas["Estimate"], scale: number, digits: number): string {
  const value = fixed(e.value * scale, digits);
  if (!e.ci95) return value;
  const half = (((e.ci95[1] ?? 0) - (e.ci95[0] ?? 0)) / 2) * scale;
  return `${value} ± ${half.toFixed(digits)}`;
}

/** A number with so many digits; a minus before nothing says nothing. */
export function fixed(value: number, digits: number): string {
  return value.toFixed(digits).replace(/^-(0(?:\.0*)?)$/, "$1");
}
