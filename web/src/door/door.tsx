import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Dialog } from "radix-ui";
import { type ReactNode, useEffect, useState } from "react";

import type { Schemas } from "../api/client";
import { satDown } from "../api/own-yard";
import { meQuery } from "../api/queries";
import { onSignInAsked } from "../api/signed-out";
import { OwnPage } from "./own-page";
import { SignIn } from "./sign-in";

/** Lets in whoever is known, asks the others who they are, and shows a rider what is theirs. */
export function Door({ children }: { children: ReactNode }) {
  const client = useQueryClient();
  const me = useQuery(meQuery);
  // Who was let in first: a page that was opened stays until they are back.
  const [first, setFirst] = useState<Schemas["Me"] | null>(null);
  useEffect(() => onSignInAsked(() => void client.invalidateQueries(meQuery)), [client]);
  const role = me.data?.role ?? null;
  if (first === null && me.data && role !== null) {
    satDown(me.data.name ?? "");
    setFirst(me.data);
  }
  if (me.isPending) return <main className="text-soft p-10">Opening …</main>;
  // What cannot be asked who it is says on its own page that it does not answer.
  if (me.isError && first === null) return children;
  if (first === null) return <Ask />;
  const back = async (now: Schemas["Me"]) => {
    // Another person sees other things: nothing of the former page stays.
    if (now.name !== first.name || now.role !== first.role) window.location.assign("/");
    else await client.invalidateQueries();
  };
  return (
    <>
      {first.role === "rider" ? <OwnPage /> : children}
      {role === null && <Again onIn={(now) => void back(now)} />}
    </>
  );
}

function Ask() {
  return (
    <main className="mx-auto max-w-xl px-6 pt-16">
      <p className="text-soft text-sm">Umlauf</p>
      <h1 className="border-ink mb-5 border-b-2 pb-3 text-[1.75rem] leading-tight font-medium">
        Who is there?
      </h1>
      <SignIn />
    </main>
  );
}

/** Over the page that was open: what was begun on it stays. */
function Again({ onIn }: { onIn: (me: Schemas["Me"]) => void }) {
  return (
    <Dialog.Root open>
      <Dialog.Portal>
        <Dialog.Overlay className="bg-ink/50 fixed inset-0 z-40" />
        <Dialog.Content
          aria-describedby={undefined}
          className="bg-sand border-ink fixed top-[12vh] left-1/2 z-50 w-[min(26rem,92vw)] -translate-x-1/2 rounded-[3px] border p-5"
        >
          <Dialog.Title className="mb-3 text-[1.3rem] font-medium">
            Signed out: who is there? What was not saved waits on this device.
          </Dialog.Title>
          <SignIn onIn={onIn} />
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
