import { Link } from "react-router";

import type { Schemas } from "../api/client";
import { Button } from "../ui/button";
import { CoachOnly } from "../ui/me";
import { AddFootage } from "./add-footage";
import { ClipRow } from "./clip-row";
import { useRemove } from "../ui/removed";
import { EditSession, NewSession } from "./session-form";

/** A horse's sessions with their clips. */
export function SessionList({ horse }: { horse: Schemas["HorseLine"] }) {
  const remove = useRemove();
  return (
    <div className="bg-chalk mb-4 px-5 py-3">
      <NewSession horse={horse.id} />
      {horse.sessions.map((session) => (
        <section key={session.id} className="border-line mt-3 border-t pt-3">
          <EditSession session={session} horseName={horse.name} />
          <ul>
            {session.clips.map((clip) => (
              <ClipRow key={clip.id} clip={clip} horse={horse.id} session={session} />
            ))}
          </ul>
          <AddFootage session={session.id} />
        </section>
      ))}
      {horse.older_sessions > 0 && (
        <p className="mt-3">
          {horse.older_sessions} older {horse.older_sessions === 1 ? "session" : "sessions"}:{" "}
          <Link className="text-clay underline underline-offset-3" to={`/horses/${horse.id}`}>
            see the record
          </Link>
        </p>
      )}
      <CoachOnly>
        <Button
          plain
          className="text-clay mt-3"
          onClick={() => remove({ kind: "horse", id: horse.id, name: horse.name })}
        >
          Remove {horse.name} from the yard
        </Button>
      </CoachOnly>
    </div>
  );
}
