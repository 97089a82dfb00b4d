import { useMutation } from "@tanstack/react-query";
import { Dialog } from "radix-ui";
import { type FormEvent, useState } from "react";

import { api, inWords, Refused, type Schemas, taken } from "../api/client";
import { Button } from "./button";
import { Count } from "./choice";
import { inFull } from "./dates";
import { Notice } from "./notice";
import { Tick } from "./tick";

type Of = { session: number } | { clip: number };

/** Offers a link that shows one thing to whoever has it, until it ends. */
export function ShareLink({ of, what }: { of: Of; what: string }) {
  const [open, setOpen] = useState(false);
  return (
    <Dialog.Root open={open} onOpenChange={setOpen}>
      <Dialog.Trigger className="text-clay min-h-6 self-start underline underline-offset-3">
        make a link to {what}
      </Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Overlay className="bg-ink/40 fixed inset-0 z-40" />
        <Dialog.Content
          aria-describedby={undefined}
          className="bg-sand border-ink fixed top-[10vh] left-1/2 z-50 max-h-[84vh] w-[min(34rem,94vw)] -translate-x-1/2 overflow-auto rounded-[3px] border p-5 text-[1rem]"
        >
          <Dialog.Title className="mb-2 text-[1.3rem] font-medium">A link to {what}</Dialog.Title>
          <Making of={of} />
          <Dialog.Close asChild>
            <Button plain className="mt-3">
              Close
            </Button>
          </Dialog.Close>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

function Making({ of }: { of: Of }) {
  const [days, setDays] = useState(7);
  const [sound, setSound] = useState(false);
  const [face, setFace] = useState(false);
  const [agreed, setAgreed] = useState(false);
  const make = useMutation({
    mutationFn: () =>
      taken(api.POST("/api/links", { body: { ...of, days, sound, hide_face: face, agreed } })),
  });
  if (make.data) return <Made link={make.data} hides={face} />;
  const minor = make.error instanceof Refused && make.error.problem.code === "under-age";
  const submit = (e: FormEvent) => {
    e.preventDefault();
    make.mutate();
  };
  return (
    <form onSubmit={submit} className="flex flex-col gap-2">
      <p>
        Whoever has the link sees this one thing without signing in, in the yard’s network, until it
        ends. Nothing is sent anywhere.
      </p>
      <Count label="Days until it ends" value={days} most={30} onChange={setDays} />
      {"clip" in of && (
        <>
          <Tick checked={sound} onChange={setSound}>
            With its sound: what was said beside the camera is heard
          </Tick>
          <Tick checked={face} onChange={setFace}>
            Hide the rider’s head
          </Tick>
        </>
      )}
      {make.isError && <Notice text={inWords(make.error)} />}
      {minor && (
        <Tick checked={agreed} onChange={setAgreed}>
          Their parents have agreed to this link
        </Tick>
      )}
      <Button type="submit" disabled={make.isPending || (minor && !agreed)} className="self-start">
        {make.isPending ? "Making it …" : "Make the link"}
      </Button>
    </form>
  );
}

function Made({ link, hides }: { link: Schemas["MadeLink"]; hides: boolean }) {
  const [copied, setCopied] = useState(false);
  // Only over a safe line does a browser let a page write to the clipboard.
  const copy = async () => {
    await navigator.clipboard.writeText(link.address);
    setCopied(true);
  };
  return (
    <div className="flex flex-wrap items-start gap-4">
      {link.qr && (
        <img
          src={`data:image/svg+xml,${encodeURIComponent(link.qr)}`}
          alt="The link as a QR code"
          width={180}
          height={180}
        />
      )}
      <div className="min-w-0 grow basis-56">
        <p role="status" className="font-medium">
          It ends on {inFull(new Date(link.ends_ms).toISOString().slice(0, 10))}.
        </p>
        <p className="text-soft text-sm">It is shown this once; in Setup it can be ended before.</p>
        {hides && (
          <p className="text-sm">
            <a
              className="text-clay underline underline-offset-3"
              href={new URL(link.address).pathname}
              target="_blank"
              rel="noreferrer"
            >
              Look at it
            </a>{" "}
            before you pass it on: the head of whoever rides in front is hidden, others’ are not.
          </p>
        )}
        <code className="mt-1 block text-sm break-all">{link.address}</code>
        {"clipboard" in navigator && (
          <Button className="mt-2" onClick={() => void copy()}>
            {copied ? "Copied" : "Copy it"}
          </Button>
        )}
      </div>
    </div>
  );
}
