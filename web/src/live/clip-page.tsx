import { useQuery, useQueryClient } from "@tanstack/react-query";
import { type ComponentType, useEffect, useMemo } from "react";
import { Link, useParams, useSearchParams } from "react-router";

import { inWords, type Schemas } from "../api/client";
import { clipQuery, deskQuery, framesQuery, keysQuery, soundQuery } from "../api/queries";
import { DeskStore } from "./clip-store";
import { FrameClock } from "./frame-clock";

/** How often the page asks whether someone else changed the clip, ms. */
const LOOK_MS = 2500;

type Loaded = {
  clip: Schemas["ClipView"];
  times: number[];
  desk: Schemas["Desk"];
};

export type ScreenProps = {
  clip: Schemas["ClipView"];
  clock: FrameClock;
  store: DeskStore;
  sound: Schemas["Sound"] | null;
};

/** Opens a clip: its footage, the times of its frames and its marks, on one of its desks. */
export function ClipPage({ screen }: { screen: ComponentType<ScreenProps> }) {
  const id = Number(useParams().clip);
  const client = useQueryClient();
  const opened = useQuery({
    queryKey: ["opened", id],
    gcTime: 0,
    staleTime: Infinity,
    queryFn: async (): Promise<Loaded> => {
      const [clip, frames, desk] = await Promise.all([
        client.fetchQuery(clipQuery(id)),
        client.fetchQuery(framesQuery(id)),
        client.fetchQuery(deskQuery(id)),
        // The first key pressed must already do what the coach has set it to.
        client.ensureQueryData(keysQuery),
      ]);
      return { clip, times: frames.times_us, desk };
    },
  });
  if (opened.isError) {
    return (
      <main className="mx-auto max-w-xl p-10">
        <h1 className="text-2xl">This clip cannot be opened.</h1>
        <p className="text-soft mt-2">{inWords(opened.error)}</p>
        <Link className="text-clay mt-4 inline-block underline" to="/">
          Back to the yard
        </Link>
      </main>
    );
  }
  if (!opened.data) return <main className="text-soft p-10">Opening the clip …</main>;
  return <OpenDesk key={id} loaded={opened.data} screen={screen} />;
}

function OpenDesk({
  loaded,
  screen: Screen,
}: {
  loaded: Loaded;
  screen: ComponentType<ScreenProps>;
}) {
  const id = loaded.clip.id;
  const store = useMemo(() => new DeskStore(id, loaded.desk), [id, loaded.desk]);
  const clock = useMemo(() => new FrameClock(loaded.times), [loaded.times]);
  // Another page may point to a moment, true seconds.
  const asked = Number(useSearchParams()[0].get("at") ?? NaN);
  const slow = loaded.desk.settings.slow_factor;
  useEffect(() => {
    if (Number.isFinite(asked)) clock.goToTime(asked * slow * 1e6 + 1);
  }, [asked, slow, clock]);
  useEffect(() => {
    const close = store.open();
    const looking = setInterval(() => {
      if (!document.hidden) void store.look();
    }, LOOK_MS);
    return () => {
      clearInterval(looking);
      close();
    };
  }, [store]);
  // While the proxy is being made the original is shown; the faster file takes over when ready.
  const clip = useQuery({
    ...clipQuery(id),
    initialData: loaded.clip,
    refetchInterval: (q) => (q.state.data?.proxy === "pending" ? 1500 : false),
  });
  const sound = useQuery({
    ...soundQuery(id),
    refetchInterval: (q) =>
      clip.data.proxy === "pending" && (q.state.data?.points.length ?? 0) === 0 ? 2000 : false,
  });
  return <Screen clip={clip.data} clock={clock} store={store} sound={sound.data ?? null} />;
}
