import { useEffect } from "react";

/** Keys of an open sheet, taken wherever the focus is: a quick hand is there before the focus. */
export function useSheetKeys(open: boolean, take: (key: string) => boolean): void {
  useEffect(() => {
    if (!open) return;
    const onDown = (e: KeyboardEvent) => {
      if (e.ctrlKey || e.metaKey || e.altKey || e.key.length !== 1) return;
      if (take(e.key.toLowerCase())) e.preventDefault();
    };
    window.addEventListener("keydown", onDown);
    return () => window.removeEventListener("keydown", onDown);
  });
}
