import { type QueryClient, queryOptions } from "@tanstack/react-query";

import { api, taken } from "./client";

/** What the pages read, each under one key: whoever changes a thing says so by its key. */

/** Who sits here. */
export const meQuery = queryOptions({
  queryKey: ["me"],
  staleTime: 60_000,
  queryFn: () => taken(api.GET("/api/me")),
});

/** What a rider sees. */
export const ownQuery = queryOptions({
  queryKey: ["own"],
  queryFn: () => taken(api.GET("/api/own")),
});

export const peopleQuery = queryOptions({
  queryKey: ["people"],
  queryFn: () => taken(api.GET("/api/people")),
});

export const networkQuery = queryOptions({
  queryKey: ["network"],
  queryFn: () => taken(api.GET("/api/network")),
});

export const linksQuery = queryOptions({
  queryKey: ["links"],
  queryFn: () => taken(api.GET("/api/links")),
});

export const actsQuery = queryOptions({
  queryKey: ["acts"],
  gcTime: 0,
  queryFn: () => taken(api.GET("/api/acts")),
});

export const yardQuery = queryOptions({
  queryKey: ["yard"],
  queryFn: () => taken(api.GET("/api/yard")),
});

/** The yard anew. A first answer still under way knows nothing of what was just done, and would be taken for
 * the new one: it is given up. */
export async function yardAnew(client: QueryClient): Promise<void> {
  await client.cancelQueries(yardQuery);
  await client.invalidateQueries(yardQuery);
}

export const jobsQuery = queryOptions({
  queryKey: ["jobs"],
  queryFn: () => taken(api.GET("/api/jobs")),
});

export const spaceQuery = queryOptions({
  queryKey: ["space"],
  queryFn: () => taken(api.GET("/api/space")),
});

export const checkQuery = queryOptions({
  queryKey: ["check"],
  queryFn: () => taken(api.GET("/api/check")),
});

export const backupsQuery = queryOptions({
  queryKey: ["backups"],
  queryFn: () => taken(api.GET("/api/backups")),
});

export const backupDaysQuery = queryOptions({
  queryKey: ["backups", "days"],
  queryFn: () => taken(api.GET("/api/backups/days")),
});

export const packedHorsesQuery = (day: string) =>
  queryOptions({
    queryKey: ["backups", "days", day],
    queryFn: () => taken(api.GET("/api/backups/days/{day}", { params: { path: { day } } })),
  });

export const setupQuery = queryOptions({
  queryKey: ["setup"],
  queryFn: () => taken(api.GET("/api/setup")),
});

export const handQuery = queryOptions({
  queryKey: ["hand"],
  queryFn: () => taken(api.GET("/api/hand")),
});

/** The coach's keys change only by this page. */
export const keysQuery = queryOptions({
  queryKey: ["keys"],
  staleTime: Infinity,
  queryFn: () => taken(api.GET("/api/keys")),
});

/** What there is to choose from; it comes with the program. */
export const vocabularyQuery = queryOptions({
  queryKey: ["vocabulary"],
  staleTime: Infinity,
  queryFn: () => taken(api.GET("/api/vocabulary")),
});

export const glanceQuery = (session: number) =>
  queryOptions({
    queryKey: ["glance", session],
    queryFn: () =>
      taken(api.GET("/api/sessions/{session}/glance", { params: { path: { session } } })),
  });

export const recordKey = (horse: number) => ["record", horse] as const;

const of = (clip: number) => ({ params: { path: { clip } } });

export const clipQuery = (clip: number) =>
  queryOptions({
    queryKey: ["clip", clip],
    queryFn: () => taken(api.GET("/api/clips/{clip}", of(clip))),
  });

export const framesQuery = (clip: number) =>
  queryOptions({
    queryKey: ["frames", clip],
    queryFn: () => taken(api.GET("/api/clips/{clip}/frames", of(clip))),
  });

/** Marks and figures, always read anew: they are changed on the desks. */
export const deskQuery = (clip: number) =>
  queryOptions({
    queryKey: ["desk", clip],
    gcTime: 0,
    queryFn: () => taken(api.GET("/api/clips/{clip}/desk", of(clip))),
  });

export const soundQuery = (clip: number) =>
  queryOptions({
    queryKey: ["sound", clip],
    queryFn: () => taken(api.GET("/api/clips/{clip}/sound", of(clip))),
  });

/** What the ground tells at one revision of the clip. */
export const groundQuery = (clip: number, revision: number) =>
  queryOptions({
    queryKey: ["ground", clip, revision],
    queryFn: () => taken(api.GET("/api/clips/{clip}/ground", of(clip))),
  });
