import { useEffect, useRef, useState } from "react";

import type { Schemas } from "../api/client";
import type { FrameClock } from "./frame-clock";

/** The picture, as large as it can be. */
export function Stage({ clip, clock }: { clip: Schemas["ClipView"]; clock: FrameClock }) {
  const video = useRef<HTMLVideoElement>(null);
  const [broken, setBroken] = useState<string | null>(null);
  useEffect(() => (video.current ? clock.attach(video.current) : undefined), [clock, clip.media]);
  return (
    <div className="relative min-h-0 grow overflow-hidden rounded-[3px] bg-[#12161a]">
      {/* The sound is hoofbeats and the coach's own voice: there are no captions to offer yet. */}
      {/* eslint-disable-next-line jsx-a11y/media-has-caption */}
      <video
        key={clip.media}
        ref={video}
        src={clip.media}
        preload="auto"
        playsInline
        className="absolute inset-0 size-full object-contain"
        onClick={() => clock.toggle()}
        onError={() => setBroken(clip.media)}
      />
      {broken === clip.media && (
        <p role="alert" className="absolute inset-x-0 top-1/3 p-6 text-center text-white">
          {clip.proxy === "pending"
            ? "The browser cannot show this file itself; a copy it can show is being made."
            : "The browser cannot show this footage. Its marks are safe."}
        </p>
      )}
    </div>
  );
}
