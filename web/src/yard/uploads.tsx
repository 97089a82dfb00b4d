import { useQueryClient } from "@tanstack/react-query";
import {
  createContext,
  type ReactNode,
  useCallback,
  useContext,
  useMemo,
  useRef,
  useState,
} from "react";

import { inWords } from "../api/client";
import { jobsQuery, yardAnew } from "../api/queries";
import { sendFile } from "./send-file";

export type Sending = {
  key: string;
  /** Null for footage that is to be sorted. */
  session: number | null;
  name: string;
  bytes: number;
  sent: number;
  began: number;
  /** Reading what arrived: frame times and content. */
  checking: boolean;
  failed: string | null;
};

type Uploads = {
  all: readonly Sending[];
  add: (session: number | null, files: Iterable<File>) => void;
  cancel: (key: string) => void;
};

const Context = createContext<Uploads>({ all: [], add: () => {}, cancel: () => {} });

export const useUploads = () => useContext(Context);

/** Files on their way, two at a time. */
export function UploadsProvider({ children }: { children: ReactNode }) {
  const client = useQueryClient();
  const [all, setAll] = useState<readonly Sending[]>([]);
  const stops = useRef(new Map<string, AbortController>());
  const line = useRef<Promise<void>[]>([Promise.resolve(), Promise.resolve()]);

  const patch = useCallback((key: string, change: Partial<Sending>) => {
    setAll((now) => now.map((s) => (s.key === key ? { ...s, ...change } : s)));
  }, []);
  const drop = useCallback((key: string) => {
    setAll((now) => now.filter((s) => s.key !== key));
  }, []);

  const send = useCallback(
    async (key: string, session: number | null, file: File, stop: AbortController) => {
      if (stop.signal.aborted) return;
      try {
        patch(key, { began: Date.now() });
        await sendFile(session, file, stop.signal, (sent) => {
          patch(key, { sent, checking: sent >= file.size });
        });
        await Promise.all([yardAnew(client), client.invalidateQueries(jobsQuery)]);
        drop(key);
      } catch (error) {
        if (stop.signal.aborted) drop(key);
        else patch(key, { failed: inWords(error), checking: false });
      } finally {
        stops.current.delete(key);
      }
    },
    [client, drop, patch],
  );

  const add = useCallback(
    (session: number | null, files: Iterable<File>) => {
      for (const file of files) {
        const key = crypto.randomUUID();
        const stop = new AbortController();
        stops.current.set(key, stop);
        const begun = { began: Date.now(), checking: false, failed: null };
        setAll((now) => [
          ...now,
          { key, session, name: file.name, bytes: file.size, sent: 0, ...begun },
        ]);
        const [first, second] = line.current;
        const next = (first ?? Promise.resolve()).then(() => send(key, session, file, stop));
        line.current = [second ?? Promise.resolve(), next];
      }
    },
    [send],
  );

  const cancel = useCallback(
    (key: string) => {
      stops.current.get(key)?.abort();
      drop(key);
    },
    [drop],
  );

  const value = useMemo(() => ({ all, add, cancel }), [all, add, cancel]);
  return <Context.Provider value={value}>{children}</Context.Provider>;
}
