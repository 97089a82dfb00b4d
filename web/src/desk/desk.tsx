import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useMemo, useState, useSyncExternalStore } from "react";

import type { Schemas } from "../api/client";
import { Notice } from "../ui/notice";
import { DeskHead } from "./desk-head";
import type { DeskStore } from "./desk-store";
import type { FrameClock } from "./frame-clock";
import { KeyHelp } from "./key-help";
import { Marking } from "./marking";
import { Reading } from "./reading";
import { SlowQuestion } from "./slow-question";
import { Stage } from "./stage";
import { Strip } from "./strip/strip";
import { useView } from "./strip/view";
import { Transport } from "./transport";
import { useKeys } from "./use-keys";

type Props = {
  clip: Schemas["ClipView"];
  clock: FrameClock;
  store: DeskStore;
  sound: Schemas["Sound"] | null;
};

/** The Timing desk: picture, wheel and findings, strip. */
export function Desk({ clip, clock, store, sound }: Props) {
  const state = useSyncExternalStore(store.subscribe, store.snapshot);
  const marking = useMemo(() => new Marking(clock, store), [clock, store]);
  const [help, setHelp] = useState(false);
  const view = useView(clock);
  const { slow_factor: slow } = state.desk.settings;
  const jump = useCallback((s: number) => clock.goToTime(s * slow * 1e6 + 1), [clock, slow]);
  const openHelp = useCallback(() => setHelp(true), []);
  useKeys({ clock, store, marking, view, jump, openHelp, off: help });

  // The yard shows what was found here: it is read anew when the coach goes back.
  const client = useQueryClient();
  useEffect(() => () => void client.invalidateQueries({ queryKey: ["yard"] }), [client]);

  return (
    <main className="mx-auto flex h-dvh min-h-[640px] max-w-[1680px] flex-col gap-2.5 px-5 pt-2.5 pb-2.5">
      <DeskHead clip={clip} store={store} state={state} />
      <SlowQuestion store={store} desk={state.desk} />
      {state.message && <Notice text={state.message} onClose={() => store.dismiss()} />}
      <div className="grid min-h-0 grow grid-cols-[minmax(0,1fr)_400px] gap-5">
        <div className="flex min-h-0 min-w-0 flex-col gap-2">
          <Stage clip={clip} clock={clock} mirrored={state.desk.settings.mirrored ?? false} />
          <Transport clock={clock} marking={marking} slow={slow} />
        </div>
        <Reading clip={clip} clock={clock} store={store} desk={state.desk} jump={jump} />
      </div>
      <Strip
        clock={clock}
        store={store}
        state={state}
        marking={marking}
        view={view}
        sound={sound}
        filmstrip={clip.filmstrip ?? null}
        slow={slow}
      />
      <KeyHelp open={help} onOpenChange={setHelp} />
    </main>
  );
}
