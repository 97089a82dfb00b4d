import { type PointerEvent, type RefObject, useEffect, useRef, useState } from "react";

import type { Schemas } from "../api/client";
import type { FrameClock } from "../live/frame-clock";
import { type Box, boxOf, clamped, closer, type Look, type Pixel, shownAt, sizeOf } from "./look";
import { Loupe } from "./loupe";

type Props = {
  clip: Schemas["ClipView"];
  clock: FrameClock;
  mirrored: boolean;
  look: Look;
  onLook: (look: Look) => void;
  /** What is to be clicked, in words; nothing when a click has no meaning. */
  asks: string | null;
  cursor: Pixel | null;
  onCursor: (p: Pixel) => void;
  /** A pixel of the footage, and what it is shown by. */
  onClick: (p: Pixel, shown: HTMLVideoElement | null) => void;
  /** Marks over the picture, drawn where `at` says. */
  children: (at: (p: Pixel) => { x: number; y: number }) => React.ReactNode;
};

/** The picture at any closeness, with a cross to click by and a loupe. */
export function Picture(props: Props) {
  const { clip, clock, mirrored, look, onLook, asks, cursor, onCursor, onClick, children } = props;
  const frame = useRef<HTMLDivElement>(null);
  const video = useRef<HTMLVideoElement>(null);
  const size = useBox(frame);
  const drag = useRef<{ x: number; y: number; look: Look; moved: boolean } | null>(null);
  const { media, media_shift_us: shift } = clip;
  useEffect(
    () => (video.current && media ? clock.attach(video.current, shift) : undefined),
    [clock, media, shift],
  );
  const box = boxOf(clip, size, look);
  const at = (p: Pixel) => shownAt(p, clip, box, mirrored);
  const pixelOf = (e: { clientX: number; clientY: number }): Pixel => {
    const r = frame.current?.getBoundingClientRect();
    const x = (e.clientX - (r?.left ?? 0) - box.left) / box.scale;
    const y = (e.clientY - (r?.top ?? 0) - box.top) / box.scale;
    return { x_px: mirrored ? clip.width - x : x, y_px: y };
  };
  useWheel(frame, (e) =>
    onLook(closer(look, clip, pixelOf(e), e.deltaY < 0 ? 1.25 : 0.8, mirrored)),
  );
  const onDown = (e: PointerEvent) => {
    if (e.button !== 0) return;
    drag.current = { x: e.clientX, y: e.clientY, look, moved: false };
  };
  const onMove = (e: PointerEvent) => {
    onCursor(pixelOf(e));
    const d = drag.current;
    if (!d || e.buttons === 0) return;
    const [dx, dy] = [e.clientX - d.x, e.clientY - d.y];
    if (Math.hypot(dx, dy) > 5) d.moved = true;
    if (d.moved) {
      onLook(
        clamped({ ...d.look, x: d.look.x - dx / box.scale, y: d.look.y - dy / box.scale }, clip),
      );
    }
  };
  const onUp = (e: PointerEvent) => {
    const moved = drag.current?.moved ?? true;
    drag.current = null;
    if (!moved && asks) onClick(pixelOf(e), video.current);
  };
  const cross = cursor && asks ? at(cursor) : null;
  return (
    <div
      ref={frame}
      className={`relative min-h-0 grow touch-none overflow-hidden rounded-[3px] bg-[#12161a] select-none ${asks ? "cursor-crosshair" : "cursor-grab"}`}
      onPointerDown={onDown}
      onPointerMove={onMove}
      onPointerUp={onUp}
      data-testid="picture"
    >
      {media && (
        // The sound has no part here.
        <video
          key={media}
          ref={video}
          src={media}
          muted
          preload="auto"
          playsInline
          className={`absolute max-w-none ${mirrored ? "-scale-x-100" : ""}`}
          style={{
            left: box.left,
            top: box.top,
            width: clip.width * box.scale,
            height: clip.height * box.scale,
          }}
        />
      )}
      <svg className="pointer-events-none absolute inset-0 size-full" aria-hidden>
        {children(at)}
        {cross && <Cross {...cross} />}
      </svg>
      {asks && (
        <p
          role="status"
          className="bg-chalk text-ink pointer-events-none absolute top-2 left-2 rounded-[2px] px-2 py-1 text-[0.95rem]"
        >
          {asks}
        </p>
      )}
      {cursor && cross && (
        <Loupe
          video={video}
          clip={clip}
          at={cursor}
          mirrored={mirrored}
          left={cross.x > size.width / 2}
          times={5 * Math.max(1, box.scale)}
        />
      )}
      {!media && <p className="p-6 text-white">The picture is being made ready …</p>}
    </div>
  );
}

function Cross({ x, y }: { x: number; y: number }) {
  const arms = `M${x - 14} ${y}H${x - 4}M${x + 4} ${y}H${x + 14}M${x} ${y - 14}V${y - 4}M${x} ${y + 4}V${y + 14}`;
  return (
    <>
      <path d={arms} stroke="#12161a" strokeWidth={3.5} fill="none" opacity={0.6} />
      <path d={arms} stroke="#fbf8f1" strokeWidth={1.5} fill="none" />
    </>
  );
}

function useBox(of: RefObject<HTMLDivElement | null>): Box {
  const [size, setSize] = useState<Box>({ width: 800, height: 400 });
  useEffect(() => {
    const element = of.current;
    if (!element) return;
    const seen = new ResizeObserver(() => setSize(sizeOf(element)));
    seen.observe(element);
    return () => seen.disconnect();
  }, [of]);
  return size;
}

/** React's own wheel listener cannot keep the page from scrolling. */
function useWheel(of: RefObject<HTMLDivElement | null>, turn: (e: WheelEvent) => void) {
  const latest = useRef(turn);
  useEffect(() => {
    latest.current = turn;
  });
  useEffect(() => {
    const element = of.current;
    const onWheel = (e: WheelEvent) => {
      e.preventDefault();
      latest.current(e);
    };
    element?.addEventListener("wheel", onWheel, { passive: false });
    return () => element?.removeEventListener("wheel", onWheel);
  }, [of]);
}
