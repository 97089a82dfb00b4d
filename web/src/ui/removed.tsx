import { useQueryClient } from "@tanstack/react-query";
import { createContext, type ReactNode, useCallback, useContext, useMemo, useState } from "react";
import { useLocation, useNavigate } from "react-router";

import { api, done, inWords, type Schemas } from "../api/client";
import { yardQuery } from "../api/queries";
import { Button } from "./button";

type Thing = Schemas["Removed"];

const Context = createContext<(thing: Thing) => void>(() => {});

/** Takes something away, with a way back. */
export const useRemove = () => useContext(Context);

/** Brings something back from the bin. */
export function restore({ kind, id }: Thing): Promise<void> {
  if (kind === "clip") {
    return done(api.POST("/api/clips/{clip}/restore", { params: { path: { clip: id } } }));
  }
  if (kind === "session") {
    return done(api.POST("/api/sessions/{session}/restore", { params: { path: { session: id } } }));
  }
  return done(api.POST("/api/horses/{horse}/restore", { params: { path: { horse: id } } }));
}

function remove({ kind, id }: Thing): Promise<void> {
  if (kind === "clip") {
    return done(api.DELETE("/api/clips/{clip}", { params: { path: { clip: id } } }));
  }
  if (kind === "session") {
    return done(api.DELETE("/api/sessions/{session}", { params: { path: { session: id } } }));
  }
  return done(api.DELETE("/api/horses/{horse}", { params: { path: { horse: id } } }));
}

/** Remembers what was taken away last and offers it back. */
export function RemovedProvider({ children }: { children: ReactNode }) {
  const client = useQueryClient();
  const navigate = useNavigate();
  // A clip removed on its desk is offered back here.
  const fromDesk = (useLocation().state as { removed?: Thing } | null)?.removed ?? null;
  const [here, setHere] = useState<Thing | null>(null);
  const [failed, setFailed] = useState<string | null>(null);
  const last = here ?? fromDesk;

  const act = useCallback(
    async (what: Promise<void>) => {
      try {
        setFailed(null);
        await what;
        await client.invalidateQueries(yardQuery);
      } catch (error) {
        setFailed(inWords(error));
      }
    },
    [client],
  );
  const take = useCallback(
    (thing: Thing) => {
      setHere(thing);
      void act(remove(thing));
    },
    [act],
  );
  const forget = () => {
    setHere(null);
    if (fromDesk) void navigate(".", { replace: true, state: null });
  };
  const value = useMemo(() => take, [take]);
  return (
    <Context.Provider value={value}>
      {children}
      {(last || failed) && (
        <div
          role="status"
          className="bg-ink text-sand fixed inset-x-0 bottom-4 mx-auto flex w-fit items-center gap-4 rounded-[3px] px-4 py-2"
        >
          <span>{failed ?? `${last?.name} was removed; it stays in the bin (Setup).`}</span>
          {last && !failed && (
            <Button
              plain
              className="!text-sand hover:!bg-clay underline"
              onClick={() => {
                void act(restore(last));
                forget();
              }}
            >
              Undo
            </Button>
          )}
          <Button
            plain
            className="!text-sand hover:!bg-clay"
            onClick={() => {
              setFailed(null);
              forget();
            }}
          >
            Close
          </Button>
        </div>
      )}
    </Context.Provider>
  );
}
