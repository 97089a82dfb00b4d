import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";

import { api, done, inWords, type Schemas } from "../api/client";
import { recordKey } from "../api/queries";
import { Notice } from "../ui/notice";
import { dayAndMonth } from "../ui/dates";
import { Choice } from "../ui/choice";

type Props = { row: Schemas["CardRow"]; record: Schemas["Record"] };

/** The coach's own mark beside the curve's, for any session. */
export function OwnMark({ row, record }: Props) {
  const client = useQueryClient();
  const [at, setAt] = useState(row.this ?? record.sessions.length - 1);
  const session = record.sessions[at];
  const kept = row.coach[at] ?? null;
  const [written, setWritten] = useState<string | null>(null);
  const save = useMutation({
    mutationFn: (mark: number | null) =>
      done(
        api.PUT("/api/sessions/{session}/mark", {
          params: { path: { session: session?.id ?? 0 } },
          body: { gait: record.gait, figure: row.metric, mark },
        }),
      ),
    onSuccess: async () => {
      await client.invalidateQueries({ queryKey: recordKey(record.id) });
      setWritten(null);
    },
  });
  if (!session) return null;
  const commit = () => {
    if (written === null) return;
    const mark = written.trim() === "" ? null : Number(written.replace(",", "."));
    if (mark === null || Number.isFinite(mark)) save.mutate(mark);
  };
  const curve = row.marks[at];
  return (
    <div className="flex flex-col gap-1">
      <Choice
        label="Your own mark, 0 to 10, for"
        value={`${at}`}
        onChange={(v) => {
          setAt(Number(v));
          setWritten(null);
        }}
        className="w-28"
      >
        {record.sessions.map((s, k) => (
          <option key={s.id} value={k}>
            {dayAndMonth(s.date)}
          </option>
        ))}
      </Choice>
      <div className="flex items-baseline gap-2">
        <input
          aria-label={`Your own mark for ${row.name}, ${dayAndMonth(session.date)}`}
          inputMode="decimal"
          value={written ?? kept?.toString() ?? ""}
          placeholder="–"
          onChange={(e) => setWritten(e.target.value)}
          onBlur={commit}
          onKeyDown={(e) => {
            if (e.key === "Enter") commit();
          }}
          className="border-line focus:border-ink bg-chalk min-h-9 w-16 rounded-[3px] border px-2 font-mono"
        />
        <span className="text-soft text-sm">
          {typeof curve === "number" ? `the curve says ${curve.toFixed(1)}` : "no curve here"}
        </span>
      </div>
      {save.isError && <Notice text={inWords(save.error)} />}
    </div>
  );
}
