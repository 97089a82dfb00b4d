import { type DragEvent, useEffect, useRef, useState } from "react";

import { Button } from "../ui/button";
import { type Sending, useUploads } from "./uploads";

/** Where footage is dropped or picked, and what is on its way. */
export function AddFootage({ session }: { session: number }) {
  const { all, add, cancel } = useUploads();
  const picker = useRef<HTMLInputElement>(null);
  const [over, setOver] = useState(false);
  const own = all.filter((s) => s.session === session);
  const drop = (e: DragEvent) => {
    e.preventDefault();
    e.stopPropagation();
    setOver(false);
    add(session, [...e.dataTransfer.files]);
  };
  return (
    <div
      className={`mt-2 flex flex-col gap-2 rounded-[3px] border border-dashed px-3 py-2 ${over ? "border-clay bg-dune" : "border-line"}`}
      onDragOver={(e) => {
        e.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={drop}
    >
      <div className="flex items-center gap-3">
        <Button plain className="border-line border" onClick={() => picker.current?.click()}>
          Add footage
        </Button>
        <span className="text-soft text-sm">
          or drop files here; the originals stay as they are
        </span>
        <input
          ref={picker}
          type="file"
          accept="video/*,.mkv"
          multiple
          className="sr-only"
          tabIndex={-1}
          aria-label="Footage files"
          onChange={(e) => {
            add(session, [...(e.target.files ?? [])]);
            e.target.value = "";
          }}
        />
      </div>
      {own.map((s) => (
        <Progress key={s.key} sending={s} onCancel={() => cancel(s.key)} />
      ))}
    </div>
  );
}

/** A file on its way. */
export function Progress({ sending, onCancel }: { sending: Sending; onCancel: () => void }) {
  const share = sending.bytes > 0 ? sending.sent / sending.bytes : 0;
  return (
    <div className="flex items-center gap-3 text-[0.97rem]">
      <span className="w-48 truncate">{sending.name}</span>
      {sending.failed ? (
        <p role="alert" className="text-clay grow">
          {sending.failed}
        </p>
      ) : (
        <>
          <progress
            className="h-2 grow accent-[var(--clay)]"
            value={share}
            aria-label={`Sending ${sending.name}`}
          />
          <span className="text-soft w-52 text-right text-sm">
            <Left sending={sending} />
          </span>
        </>
      )}
      <Button plain onClick={onCancel}>
        {sending.failed ? "Close" : "Cancel"}
      </Button>
    </div>
  );
}

function Left({ sending }: { sending: Sending }) {
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => {
    const tick = setInterval(() => setNow(Date.now()), 500);
    return () => clearInterval(tick);
  }, []);
  if (sending.checking) return "reading its frames …";
  const elapsed = (now - sending.began) / 1000;
  if (sending.sent === 0 || elapsed < 1) return `${megabytes(sending.bytes)}`;
  const left = (elapsed * (sending.bytes - sending.sent)) / sending.sent;
  return `${megabytes(sending.sent)} of ${megabytes(sending.bytes)}, ${inMinutes(left)} left`;
}

const megabytes = (bytes: number) => `${(bytes / 1e6).toFixed(bytes < 1e7 ? 1 : 0)} MB`;

function inMinutes(s: number): string {
  return s < 90 ? `${Math.max(1, Math.round(s))} s` : `${Math.round(s / 60)} min`;
}
