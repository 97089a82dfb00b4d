import { useMutation } from "@tanstack/react-query";

import { api, inWords, taken } from "../api/client";
import { Button } from "../ui/button";
import type { DeskState, DeskStore } from "../live/clip-store";
import type { FrameClock } from "../live/frame-clock";
import { boutHere } from "./acts";

type Props = { clip: number; clock: FrameClock; store: DeskStore; state: DeskState };

/** Timing a bout twice: the coach's own scatter, which then enters the errors. */
export function Repeat({ clip, clock, store, state }: Props) {
  const { again, desk } = state;
  const us = desk.settings.slow_factor * 1e6;
  const compare = useMutation({
    mutationFn: (keep: boolean) =>
      taken(
        api.POST("/api/clips/{clip}/again", {
          params: { path: { clip } },
          body: { marks: [...(again?.marks ?? [])], keep },
        }),
      ),
  });
  const begin = () => {
    const bout = boutHere(store, clock);
    if (!bout) return;
    compare.reset();
    store.select(null);
    store.timeAgain({ from: bout.start_s * us, to: bout.end_s * us, marks: [] });
    clock.goToTime(bout.start_s * us - 50_000);
  };
  const end = () => {
    store.timeAgain(null);
    compare.reset();
  };
  return (
    <section className="border-line mt-3 border-t py-2">
      <h3 className="font-medium">How steady is your own hand?</h3>
      {again ? (
        <>
          <p className="text-soft text-sm">
            The marks of this bout are hidden. Time eight footfalls or more of it once more, without
            looking them up; they are compared and thrown away.
          </p>
          <p className="my-1 font-mono">{again.marks.length} footfalls timed again</p>
          {compare.data && <p role="status">{compare.data.says}</p>}
          {compare.error && <p role="alert">{inWords(compare.error)}</p>}
          <div className="mt-1 flex flex-wrap gap-2">
            <Button
              disabled={again.marks.length === 0 || compare.isPending}
              onClick={() => compare.mutate(false)}
            >
              Compare
            </Button>
            {typeof compare.data?.sd_s === "number" && (
              <Button
                onClick={() =>
                  compare.mutate(true, {
                    onSuccess: () => {
                      end();
                      void store.refresh();
                    },
                  })
                }
              >
                Count it in all errors
              </Button>
            )}
            <Button plain onClick={end}>
              Stop
            </Button>
          </div>
        </>
      ) : (
        <>
          <p className="text-soft text-sm">
            Time one bout twice: the scatter between the two is what your marks are worth, beside
            the frame rate. It then enters the error of every figure.
          </p>
          <Button className="mt-1" disabled={desk.analysis.bouts.length === 0} onClick={begin}>
            Time this bout again
          </Button>
        </>
      )}
    </section>
  );
}
