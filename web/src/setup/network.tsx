import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";

import { api, inWords, type Schemas, taken } from "../api/client";
import { networkQuery } from "../api/queries";
import { Notice } from "../ui/notice";
import { OnOff } from "../ui/tick";

/** Whether tablets in the yard's network reach this machine, and how. */
export function Network() {
  const client = useQueryClient();
  const network = useQuery({ ...networkQuery, refetchInterval: 10_000 });
  const open = useMutation({
    mutationFn: (open: boolean) => taken(api.PUT("/api/network", { body: { open } })),
    onSuccess: (data) => client.setQueryData(networkQuery.queryKey, data),
  });
  const n = network.data;
  if (!n) return network.isError ? <Notice text={inWords(network.error)} /> : null;
  return (
    <div>
      <p role="status" className="font-medium">
        {first(n)}
      </p>
      {!n.fixed && (
        <OnOff checked={n.open} onChange={(on) => open.mutate(on)}>
          Let tablets in the yard’s network in
        </OnOff>
      )}
      {open.isError && <Notice text={inWords(open.error)} onClose={() => open.reset()} />}
      {n.trouble && <Notice text={`Something is in the way: ${n.trouble}.`} />}
      {n.addresses.length > 0 && <Way network={n} />}
    </div>
  );
}

/** What matters first: who reaches the yard. */
function first(n: Schemas["NetworkView"]): string {
  if (!n.password_set) {
    return "Only this machine reaches Umlauf. To let tablets in, give the coach a password first.";
  }
  if (n.addresses.length === 0) return "Only this machine reaches Umlauf.";
  return "Tablets in the yard’s network reach Umlauf; each signs in once.";
}

/** The address to open on a tablet, and what it is told to trust. */
function Way({ network: n }: { network: Schemas["NetworkView"] }) {
  const [best, ...others] = n.addresses;
  return (
    <div className="mt-2 flex flex-wrap items-start gap-6">
      {n.qr && (
        <img
          src={`data:image/svg+xml,${encodeURIComponent(n.qr)}`}
          alt={`QR code of ${best}`}
          width={190}
          height={190}
        />
      )}
      <div className="min-w-0 grow basis-72">
        <p>
          Point the tablet’s camera here, or type <code className="break-all">{best}</code>
        </p>
        {others.length > 0 && (
          <p className="text-soft text-sm">
            Where that does not answer: <span className="break-all">{others.join(", ")}</span>
          </p>
        )}
        {n.fingerprint && (
          <p className="mt-2 text-sm">
            The tablet is told once to trust the yard’s certificate. Compare its SHA-256
            fingerprint: <code className="block text-[0.82rem] break-words">{n.fingerprint}</code>
          </p>
        )}
      </div>
    </div>
  );
}
