import type { DeskStore, Mark } from "../live/clip-store";
import { Button } from "../ui/button";
import { LimbMark, NAMES } from "../ui/limbs";
import { type Aim, type Ground, nextHoof, standing } from "./aim";

type Props = {
  ground: Ground;
  marks: readonly Mark[];
  aim: Aim | null;
  store: DeskStore;
  now: number;
  onAim: (aim: Aim | null) => void;
};

/** Which hooves are clicked, and the next one to click. */
export function HoovesPanel({ ground, marks, aim, store, now, onAim }: Props) {
  const done = marks.filter((m) => m.hoof).length;
  const next = nextHoof(ground, marks, now - 1);
  const scaled = ground.ways.some((w) => w.state === "used");
  const aimed = aim?.kind === "hoof" ? marks.find((m) => m.id === aim.mark) : undefined;
  if (marks.length === 0) {
    return (
      <p className="text-soft">
        No footfall is timed yet. On the Timing desk mark a few strides; here each hoof is then
        clicked once, on a frame on which it stands.
      </p>
    );
  }
  return (
    <>
      <p>
        {done} of {marks.length} hooves clicked, one click a stance. Click the toe where it touches
        the ground.
      </p>
      {!scaled && (
        <p className="border-clay mt-1 border-l-3 pl-2 text-sm">
          There is no scale yet: the clicks are kept and become metres with it.
        </p>
      )}
      <div className="mt-2 flex flex-wrap gap-2">
        {next !== null && aim?.kind !== "hoof" && (
          <Button onClick={() => onAim({ kind: "hoof", mark: next })}>
            {done === 0 ? "Begin with the first hoof" : "Go on with the next hoof"}
          </Button>
        )}
        {aim?.kind === "hoof" && (
          <Button plain onClick={() => onAim(null)}>
            Stop clicking
          </Button>
        )}
        {aimed?.hoof && (
          <Button
            plain
            onClick={() => store.change([{ before: aimed, after: { ...aimed, hoof: null } }])}
          >
            Take this click away
          </Button>
        )}
      </div>
      <ol
        className="mt-3 grid grid-cols-[repeat(auto-fill,minmax(2.25rem,1fr))] gap-0.5"
        aria-label="Footfalls"
      >
        {[...marks]
          .sort((a, b) => a.on_us - b.on_us)
          .map((m) => (
            <li key={m.id}>
              <button
                type="button"
                aria-label={`${NAMES[m.limb]} at ${(standing(m) / 1e6).toFixed(2)} s, ${m.hoof ? "clicked" : "not clicked"}`}
                aria-pressed={m.id === aimed?.id}
                onClick={() => onAim({ kind: "hoof", mark: m.id })}
                className={`flex size-9 items-center justify-center rounded-[3px] ${m.id === aimed?.id ? "bg-chalk outline-clay outline-3" : m.hoof ? "bg-dune" : "hover:bg-dune"}`}
              >
                <svg width={20} height={20} aria-hidden>
                  <LimbMark limb={m.limb} x={10} y={10} r={6} faint={!m.hoof} />
                </svg>
              </button>
            </li>
          ))}
      </ol>
    </>
  );
}
