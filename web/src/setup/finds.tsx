import { useMutation, useQueryClient } from "@tanstack/react-query";

import { api, inWords, type Schemas, taken } from "../api/client";
import { setupQuery } from "../api/queries";
import { Notice } from "../ui/notice";
import { OnOff } from "../ui/tick";

/** Whether new footage is looked at for footfalls by itself. */
export function Finds({ setup }: { setup: Schemas["Setup"] }) {
  const client = useQueryClient();
  const save = useMutation({
    mutationFn: (find_footfalls: boolean) =>
      taken(api.PUT("/api/setup", { body: { ...setup, find_footfalls } })),
    onSettled: () => client.invalidateQueries(setupQuery),
  });
  return (
    <section className="border-line border-b py-4">
      <h2 className="text-[1.3rem] font-medium">Footfalls that find themselves</h2>
      <p className="text-soft max-w-[70ch] text-sm">
        New footage is looked at and listened to in the background, a few times as long as it lasts.
        What is found waits on the clip’s desk as suggestions; nothing counts before you take it.
      </p>
      <OnOff checked={setup.find_footfalls ?? true} onChange={(on) => save.mutate(on)}>
        Look for footfalls in new footage
      </OnOff>
      {save.isError && <Notice text={inWords(save.error)} />}
    </section>
  );
}
