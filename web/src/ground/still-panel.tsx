import { plusMinus } from "../ui/plus-minus";
import type { DeskStore, Tag } from "../live/clip-store";
import type { FrameClock } from "../live/frame-clock";
import { Button } from "../ui/button";
import { type Aim, type Ground, STILL_POINTS } from "./aim";
import { OnOff } from "../ui/tick";
import { Hint } from "../ui/hint";

type Props = {
  ground: Ground;
  still: Tag | null;
  aim: Aim | null;
  store: DeskStore;
  clock: FrameClock;
  onAim: (aim: Aim | null) => void;
};

/** The frame check of the still on screen, and the stills of this clip. */
export function StillPanel({ ground, still, aim, store, clock, onAim }: Props) {
  const own = still?.what.kind === "still" ? still.what : null;
  const view = ground.stills.find((s) => s.id === still?.id);
  const next = STILL_POINTS.find(([p]) => !own || !(p in own.points));
  const seconds = (us: number) => `${((us - (clock.times[0] ?? 0)) / 1e6).toFixed(2)} s`;
  const others = ground.stills.filter((s) => s.id !== still?.id);
  return (
    <>
      {!own && (
        <p>
          Stop on a frame on which the horse stands square to the camera, and click points on horse
          and rider; leave out what you do not need.
        </p>
      )}
      {view && (
        <ul className="mb-2">
          {view.says.map((s, k) => (
            <li key={s} className={k === 0 ? "font-medium" : ""}>
              {s}
            </li>
          ))}
        </ul>
      )}
      <ol className="grid grid-cols-4 gap-1" aria-label="Points">
        {STILL_POINTS.map(([point, says]) => {
          const aimed = aim?.kind === "still" && aim.point === point;
          const done = own !== null && point in own.points;
          return (
            <li key={point}>
              <Hint says={says}>
                <button
                  type="button"
                  aria-pressed={aimed}
                  onClick={() => onAim(aimed ? null : { kind: "still", point })}
                  className={`min-h-9 w-full rounded-[3px] px-1 text-[0.95rem] ${aimed ? "bg-ink text-sand" : done ? "bg-dune" : "border-line border border-dashed"}`}
                >
                  {point}
                </button>
              </Hint>
            </li>
          );
        })}
      </ol>
      <div className="mt-2 flex flex-wrap items-center gap-2">
        {next && aim?.kind !== "still" && (
          <Button onClick={() => onAim({ kind: "still", point: next[0] })}>
            {own ? `Go on with the ${next[0]}` : "Begin with the poll"}
          </Button>
        )}
        {own && still && (
          <>
            <OnOff
              checked={own.working ?? false}
              onChange={(working) =>
                store.change(
                  [],
                  [
                    {
                      before: still,
                      after: { ...still, what: { ...own, working } },
                    },
                  ],
                )
              }
            >
              this horse’s working frame
            </OnOff>
            <Button plain onClick={() => store.change([], [{ before: still, after: null }])}>
              Remove this still
            </Button>
          </>
        )}
      </div>
      {view && view.figures.length > 0 && (
        <table className="mt-2 w-full text-[0.95rem]">
          <caption className="text-soft text-left text-sm">
            From clicks good to 3 px; heights are withers heights
          </caption>
          <thead>
            <tr className="border-ink text-soft border-b text-sm">
              <td />
              <th scope="col" className="text-right font-normal">
                this still
              </th>
              <th scope="col" className="pl-2 text-right font-normal">
                working ({ground.working_stills})
              </th>
              <td />
            </tr>
          </thead>
          <tbody>
            {view.figures.map((f) => {
              const digits = f.unit === "°" || f.unit === "%" ? 0 : 2;
              return (
                <tr key={f.name} className="border-line border-b align-baseline">
                  <th scope="row" className="py-0.5 text-left font-normal">
                    {f.name}
                  </th>
                  <td className="text-right font-mono text-[0.87rem] whitespace-nowrap">
                    {plusMinus(f.value, 1, digits)}
                  </td>
                  <td className="pl-2 text-right font-mono text-[0.87rem] whitespace-nowrap">
                    {f.working ? plusMinus(f.working, 1, digits) : "—"}
                  </td>
                  <td className="text-soft pl-1 text-sm">{f.unit}</td>
                </tr>
              );
            })}
          </tbody>
        </table>
      )}
      {view && <p className="border-clay mt-2 border-l-3 pl-2 text-sm">{view.caution}</p>}
      {others.length > 0 && (
        <section className="mt-3" aria-label="Other stills">
          <h2 className="font-medium">Stills of this clip</h2>
          <ul>
            {others.map((s) => (
              <li key={s.id}>
                <button
                  type="button"
                  className="hover:bg-dune min-h-9 w-full rounded-[3px] px-1 text-left"
                  onClick={() => clock.goToTime(s.at_us)}
                >
                  <span className="font-mono text-[0.87rem]">{seconds(s.at_us)}</span>{" "}
                  {s.still.working ? "working frame" : (s.says[0] ?? "no line clicked yet")}
                </button>
              </li>
            ))}
          </ul>
        </section>
      )}
    </>
  );
}
