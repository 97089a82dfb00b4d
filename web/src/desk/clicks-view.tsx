import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";

import { api, inWords, type Schemas, taken } from "../api/client";
import { jobsQuery } from "../api/queries";
import { type FrameClock, nearest } from "../live/frame-clock";
import type { KeyMap } from "../live/keys";
import { takesLetters } from "../live/takes-letters";
import { type Pixel, whole } from "../picture/look";
import { Picture } from "../picture/picture";
import { Button } from "../ui/button";
import { type Limb, LimbMark, NAMES, ORDER } from "../ui/limbs";

type Click = Schemas["LimbClick"];

/** What is clicked. */
export type Kind = "wraps" | "hooves";

/** What was shown by clicks before. */
export type Kept = Record<Kind, readonly Click[]>;

type Props = {
  clip: Schemas["ClipView"];
  clock: FrameClock;
  mirrored: boolean;
  keys: KeyMap;
  slow: number;
  kind: Kind;
  kept: Kept;
  /** The film is being looked at anew. */
  onLook: () => void;
  onClose: () => void;
};

const SAYS: Record<Kind, { ask: string; whose: string; none: (limb: Limb) => string }> = {
  wraps: {
    ask: "Click each wrap or boot: its colour tells its limb.",
    whose: "Whose wrap is clicked",
    none: (limb) => `${limb} wears none`,
  },
  hooves: {
    ask: "Click one hoof of each limb as it stands: it is followed.",
    whose: "Whose hoof is clicked",
    none: (limb) => `Take ${limb} back`,
  },
};

/** The coach shows what the horse wears, or its hooves: a click on each, and the film is looked at anew. */
export function ClicksView(props: Props) {
  const { clip, clock, mirrored, keys, slow, kind, kept, onLook, onClose } = props;
  const says = SAYS[kind];
  const client = useQueryClient();
  const [clicks, setClicks] = useState<readonly Click[]>(kept[kind]);
  const [limb, setLimb] = useState<Limb>(() => nextOf(kept[kind]) ?? "LF");
  const [inks, setInks] = useState<Partial<Record<Limb, string>>>({});
  const [look, setLook] = useState(() => whole(clip));
  const [cursor, setCursor] = useState<Pixel | null>(null);
  const send = useMutation({
    mutationFn: () =>
      taken(
        api.PUT("/api/clips/{clip}/shown", {
          params: { path: { clip: clip.id } },
          body: { wraps: [...kept.wraps], hooves: [...kept.hooves], [kind]: [...clicks] },
        }),
      ),
    onSuccess: async () => {
      await client.invalidateQueries(jobsQuery);
      onLook();
      onClose();
    },
  });
  const show = (p: Pixel, shown: HTMLVideoElement | null) => {
    const at_us = clock.times[nearest(clock.times, clock.now())] ?? 0;
    const others = clicks.filter((c) => c.limb !== limb);
    const next = [...others, { limb, at_us, ...p }];
    setClicks(next);
    if (kind === "wraps") setInks({ ...inks, [limb]: inkAt(shown, clip, p) });
    setLimb(nextOf(next) ?? limb);
  };
  const without = (of: Limb) => {
    setClicks(clicks.filter((c) => c.limb !== of));
    setLimb(of);
  };
  const changed = clicks.length > 0 || kept[kind].length > 0;
  useEffect(() => {
    const onDown = (e: KeyboardEvent) => {
      if (takesLetters(e.target)) return;
      if (e.key === "Enter" && e.target instanceof HTMLButtonElement) return;
      const action = keys.actionOf(e);
      if (action?.do === "limb") setLimb(action.limb);
      else if (action?.do === "step") clock.step(action.by);
      else if (action?.do === "take" && changed && !send.isPending) send.mutate();
      else if (action?.do === "release") onClose();
      else return;
      e.preventDefault();
    };
    window.addEventListener("keydown", onDown);
    return () => window.removeEventListener("keydown", onDown);
  });
  const here = clock.times[nearest(clock.times, clock.now())];
  const first = clock.times[0] ?? 0;
  return (
    <div className="absolute inset-0 flex flex-col bg-[#12161a]">
      <div className="bg-chalk text-ink flex flex-col gap-1 px-3 py-1 text-[0.95rem]">
        <p role="status">
          {send.error ? (
            <strong className="text-clay font-medium">{inWords(send.error)}</strong>
          ) : (
            <>
              {says.ask} <Key>{keys.keyFor("back")}</Key> <Key>{keys.keyFor("on")}</Key> another
              picture, the wheel looks closer, <Key>Escape</Key> leaves it.
            </>
          )}
        </p>
        <div className="flex flex-wrap items-center gap-x-2 gap-y-1">
          <div role="radiogroup" aria-label={says.whose} className="flex gap-1">
            {ORDER.map((of) => {
              const click = clicks.find((c) => c.limb === of);
              const at = click && ((click.at_us - first) / 1e6 / slow).toFixed(2);
              return (
                <button
                  key={of}
                  type="button"
                  role="radio"
                  aria-checked={limb === of}
                  aria-label={`${NAMES[of]}, key ${keys.keyFor(of)}${at ? `, shown at ${at} s` : ""}`}
                  className={`flex h-9 items-center gap-2 rounded-[3px] border px-2 ${limb === of ? "border-ink bg-dune" : "border-line"}`}
                  onClick={() => setLimb(of)}
                >
                  <svg width={14} height={14} viewBox="-7 -7 14 14" aria-hidden>
                    <LimbMark limb={of} x={0} y={0} r={5} />
                  </svg>
                  {of}
                  <kbd className="font-mono text-sm">{keys.keyFor(of)}</kbd>
                  {click && (
                    <span className="text-soft flex items-center gap-1 text-sm">
                      {inks[of] && (
                        <span
                          aria-hidden
                          className="border-ink inline-block size-4 border"
                          style={{ background: inks[of] }}
                        />
                      )}
                      {at} s
                    </span>
                  )}
                </button>
              );
            })}
          </div>
          {clicks.some((c) => c.limb === limb) && (
            <Button plain onClick={() => without(limb)}>
              {says.none(limb)}
            </Button>
          )}
          <Button
            className="ml-auto"
            disabled={!changed || send.isPending}
            onClick={() => send.mutate()}
          >
            Look again <kbd className="font-mono text-xs opacity-80">{keys.keyFor("take")}</kbd>
          </Button>
        </div>
      </div>
      <Picture
        {...{ clip, clock, mirrored, look, cursor }}
        onLook={setLook}
        onCursor={setCursor}
        asks={
          kind === "wraps"
            ? `Click the wrap of the ${NAMES[limb]}`
            : `Click the ${NAMES[limb]} hoof`
        }
        onClick={show}
      >
        {(at) =>
          clicks
            .filter((c) => c.at_us === here)
            .map((c) => {
              const { x, y } = at(c);
              return <LimbMark key={c.limb} limb={c.limb} x={x} y={y} r={6} />;
            })
        }
      </Picture>
    </div>
  );
}

function Key({ children }: { children: React.ReactNode }) {
  return <kbd className="font-mono font-medium">{children}</kbd>;
}

/** The first limb that nothing is shown of. */
const nextOf = (clicks: readonly Click[]) =>
  ORDER.find((limb) => !clicks.some((c) => c.limb === limb));

/** The colour that is shown at a pixel of the footage. */
function inkAt(shown: HTMLVideoElement | null, clip: Schemas["ClipView"], p: Pixel): string {
  const canvas = document.createElement("canvas");
  canvas.width = canvas.height = 1;
  const pen = canvas.getContext("2d");
  if (!shown || !pen || shown.videoWidth === 0) return "transparent";
  // The copy that is shown may be smaller than the footage.
  const k = shown.videoWidth / clip.width;
  pen.drawImage(shown, (p.x_px - 1) * k, (p.y_px - 1) * k, 3 * k, 3 * k, 0, 0, 1, 1);
  const [r, g, b] = pen.getImageData(0, 0, 1, 1).data;
  return `rgb(${r} ${g} ${b})`;
}
