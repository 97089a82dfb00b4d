import type { Schemas } from "../api/client";

/** What to ride next, and why. */
export function NextRide({ record }: { record: Schemas["Record"] }) {
  return (
    <section aria-label="What to ride next" className="mt-6">
      <h2 className="text-[1.3rem] font-medium">What to ride next</h2>
      {record.next.length === 0 && (
        <p>Nothing that was measured asks for a change: go on with the plan.</p>
      )}
      <ul className="mt-1">
        {record.next.map((n) => (
          <li key={n.why} className="border-line grid grid-cols-[20rem_1fr] gap-6 border-b py-1.5">
            <span className="first-letter:uppercase">{n.why}</span>
            <span>{n.tries.join("; ")}</span>
          </li>
        ))}
      </ul>
      <p className="border-clay mt-2 border-l-3 pl-2 text-sm">
        Short doses with a walk between; a vet first where anything is uneven or new. Local rules
        and licensed trainers decide.
      </p>
    </section>
  );
}
