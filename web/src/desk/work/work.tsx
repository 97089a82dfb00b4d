import type { Schemas } from "../../api/client";
import { ChangeTable } from "./change-table";
import { Drill, Pirouette } from "./exercises";
import { TempiRow } from "./tempi-row";

type Props = { desk: Schemas["Desk"]; jump: (seconds: number) => void };
type Event = Schemas["Event"];

/** Flying changes, lines of tempi, drills and pirouettes, stride by stride. */
export function Work({ desk, jump }: Props) {
  const { events } = desk.analysis;
  const changes = events.filter((e) => e.kind === "flying_change");
  const tempi = events.filter((e) => e.kind === "tempi");
  const others = events.filter((e) => e.kind === "drill" || e.kind === "pirouette");
  const answers = events.filter(
    (e) => e.kind === "transition" && typeof e.answer_s === "number",
  ) as Extract<Event, { kind: "transition" }>[];
  if (changes.length + tempi.length + others.length + answers.length === 0) {
    return (
      <p className="text-soft py-3">
        Flying changes, tempi, drills, pirouettes and answers to the aid are taken apart here. Mark
        the strides; say what was ridden, and the plan, with its key.
      </p>
    );
  }
  return (
    <>
      {tempi.map((t) => (
        <TempiRow key={t.time_s} tempi={t} changes={changes} jump={jump} />
      ))}
      {changes.map((change, k) => (
        <ChangeTable
          key={change.time_s}
          change={change}
          number={k + 1}
          strides={desk.around_changes[k] ?? []}
          jump={jump}
        />
      ))}
      {others.map((e) =>
        e.kind === "drill" ? (
          <Drill key={e.time_s} drill={e} jump={jump} />
        ) : (
          <Pirouette key={e.time_s} pirouette={e} jump={jump} />
        ),
      )}
      {answers.length > 0 && <Answers answers={answers} jump={jump} />}
    </>
  );
}

type AnswersProps = {
  answers: Extract<Event, { kind: "transition" }>[];
  jump: (seconds: number) => void;
};

function Answers({ answers, jump }: AnswersProps) {
  return (
    <section className="py-2">
      <h3 className="font-medium">Answers to the aid</h3>
      <ul>
        {answers.map((t) => (
          <li key={t.time_s}>
            <button
              type="button"
              onClick={() => jump(t.time_s)}
              className="hover:bg-dune flex min-h-8 w-full items-baseline gap-3 rounded-[3px] px-1 text-left"
            >
              <span className="grow">
                {t.from} to {t.to}, {t.first_limb} first
                {t.intermediate_steps > 0 && `, ${t.intermediate_steps} steps of ${t.intermediate}`}
              </span>
              <span className="font-mono text-[0.87rem]">
                {t.answer_s?.toFixed(2)} s
                {typeof t.answer_strides === "number" && `, ${t.answer_strides.toFixed(1)} strides`}
                {typeof t.answer_score === "number" && `, score ${t.answer_score.toFixed(0)}`}
              </span>
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}
