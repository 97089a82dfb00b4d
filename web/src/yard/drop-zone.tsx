import { type DragEvent, type ReactNode, useState } from "react";

import { useUploads } from "./uploads";

/** Footage dropped anywhere comes in, to be sorted. */
export function DropZone({ children }: { children: ReactNode }) {
  const { add } = useUploads();
  const [over, setOver] = useState(false);
  const onDrop = (e: DragEvent) => {
    e.preventDefault();
    setOver(false);
    if (e.dataTransfer.files.length > 0) add(null, [...e.dataTransfer.files]);
  };
  return (
    <div
      className={
        over ? "outline-clay min-h-dvh outline-2 -outline-offset-8 outline-dashed" : "min-h-dvh"
      }
      onDragOver={(e) => {
        e.preventDefault();
        setOver(true);
      }}
      onDragLeave={(e) => {
        if (e.currentTarget === e.target) setOver(false);
      }}
      onDrop={onDrop}
    >
      {children}
    </div>
  );
}
