import { useQuery } from "@tanstack/react-query";
import type { ReactNode } from "react";

import type { Schemas } from "../api/client";
import { meQuery } from "../api/queries";

/** Who sits here; the coach, as long as nothing else is known. */
export function useMe(): Schemas["Me"] {
  const me = useQuery(meQuery);
  return me.data ?? { name: "coach", role: "coach", at_the_machine: true };
}

/** What only the coach may do is not offered to others. */
export function CoachOnly({ children }: { children: ReactNode }) {
  return useMe().role === "coach" ? children : null;
}
