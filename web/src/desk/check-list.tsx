import type { Schemas } from "../api/client";

type Props = {
  checks: readonly Schemas["CheckSaid"][];
  jump: (seconds: number) => void;
};

/** Places where the marks look wrong, as a list. */
export function CheckList({ checks, jump }: Props) {
  if (checks.length === 0) return null;
  return (
    <section className="py-2">
      <h3 className="text-clay font-medium">
        {checks.length === 1 ? "One place looks wrong" : `${checks.length} places look wrong`}
      </h3>
      <ul>
        {checks.slice(0, 40).map((c) => (
          <li key={`${c.from_s}${c.limb}`}>
            <button
              type="button"
              onClick={() => jump(c.from_s)}
              className="hover:bg-dune flex min-h-8 w-full items-baseline gap-3 rounded-[3px] px-1 text-left"
            >
              <span className="font-mono text-[0.87rem]">{c.from_s.toFixed(2)} s</span>
              <span>{c.says}</span>
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}
