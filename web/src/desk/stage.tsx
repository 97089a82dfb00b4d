import { useQuery } from "@tanstack/react-query";
import { memo, useEffect, useRef, useState } from "react";

import type { Schemas } from "../api/client";
import { jobsQuery } from "../api/queries";
import type { Carry } from "../live/carry";
import { CarryView } from "./carry-view";
import { ClicksView, type Kept, type Kind } from "./clicks-view";
import type { FrameClock } from "../live/frame-clock";
import type { KeyMap } from "../live/keys";
import type { Looking } from "../live/looking";
import { LookingView } from "./looking-view";

type Props = {
  clip: Schemas["ClipView"];
  clock: FrameClock;
  mirrored: boolean;
  carry: Carry;
  looking: Looking;
  keys: KeyMap;
  slow: number;
  /** What the coach shows by clicks, while that is done, and what was shown before. */
  showing: Kind | null;
  kept: Kept;
  onShownLook: () => void;
  onShown: () => void;
};

/** The picture, as large as it can be; a mirror image is turned back. */
export const Stage = memo(function Stage(props: Props) {
  const { clip, clock, mirrored, carry, looking, keys, slow } = props;
  const { showing, kept, onShownLook, onShown } = props;
  const video = useRef<HTMLVideoElement>(null);
  const [broken, setBroken] = useState<string | null>(null);
  const { media, media_shift_us: shift } = clip;
  useEffect(
    () => (video.current && media ? clock.attach(video.current, shift) : undefined),
    [clock, media, shift],
  );
  return (
    <div className="relative min-h-0 grow overflow-hidden rounded-[3px] bg-[#12161a] text-white">
      {media && media !== broken ? (
        // The sound is hoofbeats and the coach's own voice: there are no captions to offer yet.
        // eslint-disable-next-line jsx-a11y/media-has-caption
        <video
          key={media}
          ref={video}
          src={media}
          preload="auto"
          playsInline
          className={`absolute inset-0 size-full object-contain ${mirrored ? "-scale-x-100" : ""}`}
          onClick={() => clock.toggle()}
          onError={() => setBroken(media)}
        />
      ) : (
        <Waiting clip={clip} />
      )}
      {media && media !== broken && (
        <>
          <CarryView
            {...{ carry, media, mirrored, keys, slow }}
            shift={shift ?? 0}
            times={clock.times}
          />
          <LookingView {...{ clip, looking, mirrored, keys, slow }} times={clock.times} />
          {showing && (
            <ClicksView
              {...{ clip, clock, mirrored, keys, slow, kept }}
              kind={showing}
              onLook={onShownLook}
              onClose={onShown}
            />
          )}
        </>
      )}
    </div>
  );
});

/** Until there is something whose frames can be shown exactly. */
function Waiting({ clip }: { clip: Schemas["ClipView"] }) {
  const pending = clip.proxy === "pending";
  const jobs = useQuery({ ...jobsQuery, enabled: pending, refetchInterval: 1000 });
  if (clip.codec === "table") {
    return (
      <p className="absolute inset-x-0 top-1/3 p-6 text-center text-lg">
        This ride came as a table of footfalls: there is no footage.
      </p>
    );
  }
  const job = jobs.data?.find((j) => j.clip === clip.id && j.kind === "proxy");
  if (!pending) {
    return (
      <p role="alert" className="absolute inset-x-0 top-1/3 p-6 text-center">
        {job?.says ?? "The browser cannot show this footage."} Its marks are safe.
      </p>
    );
  }
  return (
    <div className="absolute inset-x-0 top-1/3 flex flex-col items-center gap-3 p-6 text-center">
      <p className="text-lg">Making a copy that steps frame by frame …</p>
      <progress
        className="h-2 w-72 accent-[var(--clay)]"
        aria-label="Making a copy"
        value={job?.progress ?? 0}
      />
      <p className="text-sm opacity-80">
        {typeof job?.left_s === "number" ? `about ${Math.ceil(job.left_s)} s left` : "waiting"}
      </p>
    </div>
  );
}
