import { useMutation, useQueryClient } from "@tanstack/react-query";

import { api, done, type Schemas } from "../api/client";
import { recordKey } from "../api/queries";
import { NumberField } from "../ui/number-field";
import { Button } from "../ui/button";
import { Notice } from "../ui/notice";

type Props = { record: Schemas["Record"]; usual: number | null };

/** The tempo that this horse is to go in this gait: the coach's, or its own median. */
export function TargetTempo({ record, usual }: Props) {
  const client = useQueryClient();
  const save = useMutation({
    mutationFn: (tempo: number | null) =>
      done(
        api.PUT("/api/horses/{horse}/target", {
          params: { path: { horse: record.id } },
          body: { gait: record.gait, tempo },
        }),
      ),
    onSuccess: () => client.invalidateQueries({ queryKey: recordKey(record.id) }),
  });
  const own = record.target_tempo ?? null;
  return (
    <div className="flex flex-col gap-1">
      <NumberField
        label="Target tempo"
        unit="strides/min"
        value={own ?? (usual === null ? null : Math.round(usual * 10) / 10)}
        onSave={(tempo) => save.mutate(tempo)}
      />
      {own === null ? (
        <p className="text-soft text-sm">this horse’s own median</p>
      ) : (
        <Button plain onClick={() => save.mutate(null)}>
          Back to its own median
        </Button>
      )}
      {save.isError && <Notice text={save.error.message} />}
    </div>
  );
}
