import type { Schemas } from "../api/client";
import { Button } from "../ui/button";
import { AddFootage } from "./add-footage";
import { ClipRow } from "./clip-row";
import { useRemove } from "./removed";
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
      <Button
        plain
        className="text-clay mt-3"
        onClick={() => remove({ kind: "horse", id: horse.id, name: horse.name })}
      >
        Remove {horse.name} from the yard
      </Button>
    </div>
  );
}
