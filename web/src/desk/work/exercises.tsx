import type { Schemas } from "../../api/client";

type Event = Schemas["Event"];
type DrillProps = {
  drill: Extract<Event, { kind: "drill" }>;
  jump: (seconds: number) => void;
};

/** A transition drill as a series of answers. */
export function Drill({ drill, jump }: DrillProps) {
  const most = Math.max(0.1, ...drill.answers_s.map((a) => a ?? 0));
  const ridden = drill.ridden.map((pair) => pair.map((n) => String(n)).join("+")).join(" · ");
  const trend =
    typeof drill.answers_trend_s === "number"
      ? drill.answers_trend_s < 0
        ? `, quicker by ${Math.round(-1000 * drill.answers_trend_s)} ms each time`
        : `, slower by ${Math.round(1000 * drill.answers_trend_s)} ms each time`
      : "";
  return (
    <section className="py-2">
      <h3 className="font-medium">
        Drill, {drill.planned.join(" and ")} strides planned{trend}
      </h3>
      <p className="text-soft text-sm">Ridden: {ridden || "no whole pair"}</p>
      <ol className="mt-1 flex items-end gap-1" aria-label="Answers to the aid">
        {drill.answers_s.map((answer, k) => (
          <li key={k} className="flex w-9 flex-col items-center text-xs">
            {typeof answer === "number" ? (
              <>
                <span className="font-mono">{answer.toFixed(1)}</span>
                <span
                  aria-hidden
                  className="bg-ink w-4"
                  style={{ height: 4 + (32 * answer) / most }}
                />
              </>
            ) : (
              <span className="text-soft">no aid</span>
            )}
            <span className="text-soft">
              {typeof drill.scores[k] === "number" ? drill.scores[k].toFixed(0) : ""}
            </span>
          </li>
        ))}
      </ol>
      <p className="text-soft text-sm">
        Seconds from aid to answer; the suggested score below.{" "}
        <button
          type="button"
          className="text-clay min-h-6 underline"
          onClick={() => jump(drill.time_s)}
        >
          Go there
        </button>
      </p>
    </section>
  );
}

type PirouetteProps = {
  pirouette: Extract<Event, { kind: "pirouette" }>;
  jump: (seconds: number) => void;
};

/** A pirouette: its strides against what is expected, and what was lost. */
export function Pirouette({ pirouette: p, jump }: PirouetteProps) {
  const [least = 0, most = 0] = p.expected;
  const outside = p.strides < least || p.strides > most;
  return (
    <section className="py-2">
      <h3 className={`font-medium ${outside || p.lost_strides > 0 ? "text-clay" : ""}`}>
        Pirouette of {p.strides} strides ({least} to {most} expected)
      </h3>
      <p>
        {p.lost_strides === 0
          ? "The canter was kept in every stride."
          : `${p.lost_strides} lost the canter; most in a row that kept it: ${p.best_run}.`}
        {typeof p.tempo_ratio === "number" &&
          ` Tempo ${Math.round(100 * p.tempo_ratio)} % of the canter before; slower is usual.`}
        {typeof p.angle_deg === "number" && ` Turned ${Math.round(Math.abs(p.angle_deg))}°.`}{" "}
        <button
          type="button"
          className="text-clay min-h-6 underline"
          onClick={() => jump(p.time_s)}
        >
          Go there
        </button>
      </p>
    </section>
  );
}
