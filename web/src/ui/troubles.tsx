import { useQuery } from "@tanstack/react-query";

import { checkQuery } from "../api/queries";

/** What is wrong with the yard itself, each with what it means and what to do; nothing when all is well. */
export function Troubles() {
  const check = useQuery({ ...checkQuery, refetchInterval: 60_000 });
  const findings = check.data?.findings ?? [];
  if (findings.length === 0) return null;
  return (
    <ul aria-label="Wrong with the yard" className="border-line flex flex-col gap-2 border-b py-3">
      {findings.map((f) => (
        <li key={f.what} role="alert" className="border-clay bg-chalk border-l-4 px-3 py-2">
          <p className="font-medium">{f.what}</p>
          <p className="text-soft text-[0.95rem]">
            {f.mended
              ? "It was put right as it was found; nothing has to be done."
              : `${f.means} ${f.todo}`}
          </p>
        </li>
      ))}
    </ul>
  );
}
