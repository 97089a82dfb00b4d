import { useCallback, useEffect, useMemo, useRef, useState } from "react";

import type { FrameClock } from "../live/frame-clock";

/** The stretch of the clip that the strip shows, µs. */
export type Window = { from: number; to: number };

export type View = Window & {
  /** First and last moment of the clip. */
  clip: Window;
  /** Narrows (below 1) or widens (above 1) the window about a moment, or the playhead. */
  zoom: (by: number, about?: number) => void;
  /** Moves the window. */
  pan: (us: number) => void;
  whole: () => void;
  /** When the window last moved (the browser's clock, ms); 0 before it first did. */
  changedAt: number;
};

/** The narrowest window: some two strides. */
const NARROWEST = 600_000;
/** What is shown of a long clip at first. */
const AT_FIRST = 12_000_000;

export function useView(clock: FrameClock): View {
  const clip = useMemo<Window>(() => {
    const first = clock.times[0] ?? 0;
    const last = clock.times[clock.times.length - 1] ?? 0;
    return { from: first, to: Math.max(last, first + NARROWEST) };
  }, [clock]);
  const [shown, setShown] = useState<Window & { changedAt: number }>(() => ({
    ...fit(clip, clip.from, AT_FIRST),
    changedAt: 0,
  }));
  const show = useCallback(
    (next: Window) => setShown({ ...next, changedAt: performance.now() }),
    [],
  );
  const latest = useRef<Window>(shown);
  useEffect(() => {
    latest.current = shown;
  }, [shown]);

  const zoom = useCallback(
    (by: number, about?: number) => {
      const now = latest.current;
      const at = about ?? clock.now();
      const centre = at >= now.from && at <= now.to ? at : (now.from + now.to) / 2;
      const span = (now.to - now.from) * by;
      show(fit(clip, centre - (centre - now.from) * by, span));
    },
    [clip, clock, show],
  );
  const pan = useCallback(
    (us: number) => {
      const now = latest.current;
      show(fit(clip, now.from + us, now.to - now.from));
    },
    [clip, show],
  );
  const whole = useCallback(() => show(clip), [clip, show]);

  // The window turns the page when the playhead leaves it.
  useEffect(
    () =>
      clock.subscribe(() => {
        const at = clock.now();
        const { from, to } = latest.current;
        if (at >= from && at <= to) return;
        const span = to - from;
        const next = fit(clip, at > to ? at - 0.05 * span : at - 0.95 * span, span);
        latest.current = next;
        show(next);
      }),
    [clip, clock, show],
  );
  return useMemo(() => ({ ...shown, clip, zoom, pan, whole }), [shown, clip, zoom, pan, whole]);
}

function fit(clip: Window, from: number, span: number): Window {
  const whole = clip.to - clip.from;
  const wide = Math.min(Math.max(span, Math.min(NARROWEST, whole)), whole);
  const start = Math.min(Math.max(from, clip.from), clip.to - wide);
  return { from: start, to: start + wide };
}
