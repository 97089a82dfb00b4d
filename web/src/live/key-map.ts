import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useMemo } from "react";

import { api, taken } from "../api/client";
import { keysQuery } from "../api/queries";
import { type Changed, KeyMap } from "./keys";

/** The coach's keys, kept by the server. */
export function useKeyMap() {
  const client = useQueryClient();
  const kept = useQuery(keysQuery);
  const save = useMutation({
    mutationFn: (keys: Changed) => taken(api.PUT("/api/keys", { body: { keys } })),
    onSuccess: (data) => client.setQueryData(keysQuery.queryKey, data),
  });
  const changed = kept.data?.keys;
  const keys = useMemo(() => new KeyMap(changed), [changed]);
  return { keys, change: save.mutate, trouble: save.error };
}
