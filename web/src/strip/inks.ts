import { useSyncExternalStore } from "react";

/** Colours of the sheet, for drawing on a canvas. */
export type Inks = Readonly<
  Record<"line" | "chalk" | "clay" | "soft" | "cool" | "coolPale" | "warm" | "warmPale", string>
>;

const dark = () => window.matchMedia("(prefers-color-scheme: dark)");

function subscribe(listener: () => void): () => void {
  const query = dark();
  query.addEventListener("change", listener);
  return () => query.removeEventListener("change", listener);
}

let known: { dark: boolean; inks: Inks } | null = null;

function read(): Inks {
  const isDark = dark().matches;
  if (known?.dark === isDark) return known.inks;
  const style = getComputedStyle(document.documentElement);
  const ink = (name: string) => style.getPropertyValue(`--${name}`).trim();
  const inks: Inks = {
    line: ink("line"),
    chalk: ink("chalk"),
    clay: ink("clay"),
    soft: ink("soft"),
    cool: ink("cool"),
    coolPale: ink("cool-pale"),
    warm: ink("warm"),
    warmPale: ink("warm-pale"),
  };
  known = { dark: isDark, inks };
  return inks;
}

/** The inks in force, light or dark. */
export function useInks(): Inks {
  return useSyncExternalStore(subscribe, read);
}
