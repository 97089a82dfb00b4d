import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";

import { api, done, inWords, type Schemas } from "../api/client";
import { yardQuery } from "../api/queries";
import { Button } from "../ui/button";
import { Notice } from "../ui/notice";
import type { DeskStore } from "../live/clip-store";
import type { FrameClock } from "../live/frame-clock";
import { CoachOnly } from "../ui/me";
import { ShareLink } from "../ui/share-link";
import { OnOff } from "../ui/tick";

type Props = {
  clip: Schemas["ClipView"];
  clock: FrameClock;
  store: DeskStore;
  settings: Schemas["ClipSettings"];
};

/** What the file is, where it begins and ends, and whether it is a mirror image. */
export function ClipSheet({ clip, clock, store, settings }: Props) {
  const set = (change: Partial<Schemas["ClipSettings"]>) => store.changeSettings(change);
  const at = (us: number) => `${(us / 1e6 / settings.slow_factor).toFixed(2)} s`;
  const { trim_from_us: from, trim_to_us: to } = settings;
  return (
    <div className="flex flex-col gap-2 py-2 text-[0.95rem]">
      <p className="text-soft">{fileWords(clip)}</p>
      {clip.remark && <p className="border-clay border-l-3 pl-2">{clip.remark}</p>}
      <OnOff checked={settings.mirrored ?? false} onChange={(mirrored) => set({ mirrored })}>
        filmed as a mirror image: turn it back, left is right
      </OnOff>
      <div className="flex flex-wrap items-center gap-x-2 whitespace-nowrap">
        <span className="w-full">
          {typeof from === "number" ? `Begins at ${at(from)}` : "Begins with the file"},{" "}
          {typeof to === "number" ? `ends at ${at(to)}` : "ends with it"}.
        </span>
        <Button plain onClick={() => set({ trim_from_us: clock.now() })}>
          begin here <kbd className="text-soft font-mono text-xs">1</kbd>
        </Button>
        <Button plain onClick={() => set({ trim_to_us: clock.now() })}>
          end here <kbd className="text-soft font-mono text-xs">2</kbd>
        </Button>
        {(typeof from === "number" || typeof to === "number") && (
          <Button plain onClick={() => set({ trim_from_us: null, trim_to_us: null })}>
            use all of it
          </Button>
        )}
      </div>
      <Note note={settings.note ?? ""} onChange={(note) => set({ note })} />
      <CoachOnly>
        <ShareLink of={{ clip: clip.id }} what="this film" />
        <Remove clip={clip} />
      </CoachOnly>
    </div>
  );
}

function Note({ note, onChange }: { note: string; onChange: (note: string) => void }) {
  const [text, setText] = useState(note);
  return (
    <label className="flex flex-col gap-0.5">
      <span className="text-soft text-sm">Note</span>
      <textarea
        rows={3}
        maxLength={4000}
        value={text}
        onChange={(e) => setText(e.target.value)}
        onBlur={() => text !== note && onChange(text)}
        className="border-line focus:border-ink bg-chalk rounded-[3px] border px-2 py-1"
      />
    </label>
  );
}

function Remove({ clip }: { clip: Schemas["ClipView"] }) {
  const client = useQueryClient();
  const navigate = useNavigate();
  const [failed, setFailed] = useState<string | null>(null);
  const remove = async () => {
    try {
      const params = { path: { clip: clip.id } };
      await done(api.DELETE("/api/clips/{clip}", { params }));
      await client.invalidateQueries(yardQuery);
      await navigate("/", { state: { removed: { kind: "clip", id: clip.id, name: clip.name } } });
    } catch (error) {
      setFailed(inWords(error));
    }
  };
  return (
    <>
      <Button plain className="text-clay self-start" onClick={() => void remove()}>
        Remove this clip
      </Button>
      {failed && <Notice text={failed} />}
    </>
  );
}

function fileWords(clip: Schemas["ClipView"]): string {
  const parts = [
    `${clip.width}×${clip.height}`,
    clip.codec.toUpperCase(),
    clip.frame_rate ? `${Number(clip.frame_rate.toFixed(2))} frames/s` : "",
    `${(clip.bytes / 1e6).toFixed(1)} MB`,
    clip.recorded ? `filmed ${clip.recorded.slice(0, 16).replace("T", " ")}` : "",
  ];
  return `${clip.name}: ${parts.filter(Boolean).join(", ")}.`;
}
