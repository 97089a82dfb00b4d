import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useMemo, useState, useSyncExternalStore } from "react";

import type { Schemas } from "../api/client";
import { yardQuery } from "../api/queries";
import { Notice } from "../ui/notice";
import { Carry } from "../live/carry";
import { DeskHead } from "../live/clip-head";
import type { DeskStore } from "../live/clip-store";
import type { FrameClock } from "../live/frame-clock";
import type { Kept, Kind } from "./clicks-view";
import { FoundBar } from "./found-bar";
import { KeyHelp } from "./key-help";
import { useKeyMap } from "../live/key-map";
import { Looking } from "../live/looking";
import { Marking } from "../live/marking";
import { Reading, type WheelView } from "./reading";
import { SlowQuestion } from "./slow-question";
import { Stage } from "./stage";
import { Strip } from "../strip/strip";
import { useView } from "../strip/view";
import { AidSheet } from "./tags/aid-sheet";
import { LetterSheet } from "./tags/letter-sheet";
import { NoteSheet } from "./tags/note-sheet";
import { RiddenSheet } from "./tags/ridden-sheet";
import {
  putTag,
  removeTag,
  saveRidden,
  type Stretch,
  stretchHere,
  toggleUnseen,
} from "./tags/tagging";
import { Transport } from "./transport";
import { boutHere } from "./acts";
import { useKeys } from "./use-keys";

type Props = {
  clip: Schemas["ClipView"];
  clock: FrameClock;
  store: DeskStore;
  sound: Schemas["Sound"] | null;
};

type Sheet = "help" | "aid" | "letter" | "note" | null;

/** The Timing desk: picture, wheel and findings, strip. */
export function Desk({ clip, clock, store, sound }: Props) {
  const state = useSyncExternalStore(store.subscribe, store.snapshot);
  const marking = useMemo(() => new Marking(clock, store), [clock, store]);
  const carry = useMemo(() => new Carry(clip.id, clock, store), [clip.id, clock, store]);
  const looking = useMemo(() => new Looking(clip.id, clock, store), [clip.id, clock, store]);
  const { keys, change, trouble } = useKeyMap();
  const [sheet, setSheet] = useState<Sheet>(null);
  const [stretch, setStretch] = useState<Stretch | null>(null);
  const [aid, setAid] = useState<string | null>(null);
  const [relabels, setRelabels] = useState(false);
  const [wheel, setWheel] = useState<WheelView>({ spoke: false, ghost: null });
  const [showing, setShowing] = useState<Kind | null>(null);
  const view = useView(clock);
  const { slow_factor: slow, mirrored = false } = state.desk.settings;
  const jump = useCallback((s: number) => clock.goToTime(s * slow * 1e6 + 1), [clock, slow]);
  const close = () => setSheet(null);
  const lookAgain = useCallback(() => void store.look(), [store]);
  const shown = useCallback(() => setShowing(null), []);
  const askRidden = useCallback(() => setStretch(stretchHere(store, clock)), [store, clock]);
  const give = (asked: string) => {
    setAid(asked);
    putTag(store, clock, { kind: "aid", asked });
  };
  const asks = {
    help: () => setSheet("help"),
    ridden: askRidden,
    aid: (again: boolean) => (again && aid !== null ? give(aid) : setSheet("aid")),
    letter: () => setSheet("letter"),
    note: () => setSheet("note"),
    unseen: () => toggleUnseen(store, clock),
    spoke: () => setWheel({ ...wheel, spoke: !wheel.spoke }),
    ghost: () => {
      const { bouts } = state.desk.analysis;
      const here = boutHere(store, clock);
      setWheel({ ...wheel, ghost: nextGhost(bouts, here, wheel.ghost) });
    },
    relabel: setRelabels,
  };
  const off = sheet !== null || stretch !== null || showing !== null;
  const hands = { clip: clip.id, clock, store, marking, carry, looking, keys, view, jump };
  useKeys({ ...hands, asks, relabels, off });

  // A bench reads when new figures have come on screen.
  useEffect(() => void performance.mark("figures"), [state.desk]);

  // The yard shows what was found here: it is read anew when the coach goes back.
  const client = useQueryClient();
  useEffect(() => () => void client.invalidateQueries(yardQuery), [client]);

  return (
    <main className="mx-auto flex h-dvh min-h-[640px] max-w-[1680px] flex-col gap-2 px-5 pt-2 pb-2">
      <DeskHead clip={clip} store={store} state={state} />
      <SlowQuestion store={store} desk={state.desk} />
      <FoundBar
        {...{ clip, clock, store, state, keys }}
        onLook={() => looking.next()}
        onShow={setShowing}
      />
      {state.message && <Notice text={state.message} onClose={() => store.dismiss()} />}
      {relabels && (
        <p role="status" className="bg-clay text-sand px-3 py-1">
          Which limb is it? Press its key ({keys.keyFor("LF")} {keys.keyFor("RF")}{" "}
          {keys.keyFor("LH")} {keys.keyFor("RH")}); any other key leaves it.
        </p>
      )}
      <div className="grid min-h-0 grow grid-cols-[minmax(0,1fr)_410px] gap-5">
        <div className="flex min-h-0 min-w-0 flex-col gap-2">
          <Stage
            clip={clip}
            clock={clock}
            mirrored={mirrored}
            carry={carry}
            looking={looking}
            keys={keys}
            slow={slow}
            showing={showing}
            kept={state.desk.found ?? NOTHING_SHOWN}
            onShownLook={lookAgain}
            onShown={shown}
          />
          <Transport clock={clock} marking={marking} keys={keys} slow={slow} />
        </div>
        <Reading
          {...{ clip, clock, store, state, keys, jump }}
          view={wheel}
          onView={setWheel}
          onRidden={askRidden}
        />
      </div>
      <Strip
        {...{ clock, store, state, marking, carry, keys, view, sound, slow }}
        filmstrip={clip.filmstrip ?? null}
      />
      <KeyHelp
        open={sheet === "help"}
        onOpenChange={(open) => setSheet(open ? "help" : null)}
        keys={keys}
        change={change}
        trouble={trouble}
      />
      <AidSheet open={sheet === "aid"} onClose={close} onChoose={give} />
      <LetterSheet
        open={sheet === "letter"}
        onClose={close}
        onChoose={(letter) => putTag(store, clock, { kind: "letter", letter })}
      />
      <NoteSheet
        open={sheet === "note"}
        onClose={close}
        onWrite={(text) => putTag(store, clock, { kind: "note", text })}
      />
      {stretch && (
        <RiddenSheet
          open
          stretch={stretch.words}
          value={stretch.value}
          onClose={() => setStretch(null)}
          onSave={(ridden) => {
            saveRidden(store, stretch, ridden);
            setStretch(null);
          }}
          onRemove={
            stretch.tag
              ? () => {
                  if (stretch.tag) removeTag(store, stretch.tag);
                  setStretch(null);
                }
              : null
          }
        />
      )}
    </main>
  );
}

const NOTHING_SHOWN: Kept = { wraps: [], hooves: [] };

/** The next bout with strides to lay behind the wheel of another, or none after the last. */
function nextGhost(
  bouts: readonly Schemas["BoutSaid"][],
  here: Schemas["BoutSaid"] | undefined,
  now: number | null,
): number | null {
  const next = bouts.findIndex((b, k) => k > (now ?? -1) && b.strides > 0 && b !== here);
  return next < 0 ? null : next;
}
