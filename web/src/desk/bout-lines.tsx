import type { Schemas } from "../api/client";
import type { KeyMap } from "../live/keys";

type Props = {
  bout: Schemas["BoutSaid"];
  k: number;
  of: number;
  looked: Schemas["Unlooked"] | undefined;
};

/** A bout in a few lines beside its wheel. */
export function BoutLines({ bout, k, of, looked }: Props) {
  const verdict = {
    true: "the rein’s own lead",
    counter: "counter canter",
    wrong: "not the lead wanted",
  };
  const said = bout.lead_verdict && verdict[bout.lead_verdict as keyof typeof verdict];
  const place = of > 1 ? `bout ${k + 1} of ${of}` : "";
  if (bout.strides === 0) {
    return (
      <div className="text-soft text-sm">
        <p>{(bout.end_s - bout.start_s).toFixed(1)} s</p>
        <p>{place}</p>
      </div>
    );
  }
  return (
    <div className="text-soft text-sm">
      {said && <p>{said}</p>}
      <p>
        {bout.strides} {bout.strides === 1 ? "stride" : "strides"}
        {place && `, ${place}`}
      </p>
      {bout.beats_per_min ? <p>{bout.beats_per_min.toFixed(0)} beats/min</p> : null}
      <p>{Math.round(bout.confidence * 100)} % sure of the gait</p>
      {looked && looked.unlooked > 0 && (
        <p className="text-ink">
          nobody looked at {looked.unlooked} of {looked.footfalls} footfalls
        </p>
      )}
    </div>
  );
}

/** What to do with a clip in which nothing is marked. */
export function FirstSteps({ keys }: { keys: KeyMap }) {
  return (
    <p className="text-soft text-sm">
      Step with {keys.keyFor("back")} and {keys.keyFor("on")} to the frame in which a hoof first
      touches the ground, and tap its key. After one stride {keys.keyFor("carry")} carries on.
    </p>
  );
}

/** Why there are no figures. */
export function NoFigures({ bout }: { bout: Schemas["BoutSaid"] | undefined }) {
  return (
    <p className="text-soft py-3">
      {bout ? (bout.why["tempo"] ?? "There are no strides here.") : "No stride is timed yet."}
    </p>
  );
}
