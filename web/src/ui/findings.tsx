import type { Schemas } from "../api/client";

type Finding = Schemas["FindingSaid"];
type Props = {
  analysis: Schemas["Document"];
  jump: (seconds: number) => void;
  loop: (from_s: number, to_s: number) => void;
};

/** Findings as sentences, faults first; each goes to its place in the clip. */
export function Findings({ analysis, jump, loop }: Props) {
  if (analysis.findings.length === 0) {
    return (
      <p className="text-soft py-3">
        {analysis.bouts.length === 0
          ? "Findings appear with the first whole strides: eight or more make the figures firm."
          : "Too few strides yet for a finding; mark on."}
      </p>
    );
  }
  return (
    <ul>
      {analysis.findings.map((f) => (
        <li key={`${f.code}${f.start_s}`} className="border-line border-b py-1.5">
          <FindingLine finding={f} onChoose={() => jump(f.start_s)} />
          <div className="flex items-baseline gap-4 text-[0.95rem]">
            <button
              type="button"
              onClick={() => loop(f.start_s, Math.max(f.end_s, f.start_s + 0.4))}
              className="text-clay min-h-6 underline underline-offset-3"
            >
              play it over and over at ¼
            </button>
            {f.try.length > 0 && <Tries tries={f.try} />}
          </div>
          {f.caution && <p className="border-clay mt-1 border-l-3 pl-2 text-sm">{f.caution}</p>}
        </li>
      ))}
    </ul>
  );
}

/** Title, figure and sentence of a finding. */
export function FindingLine({ finding: f, onChoose }: { finding: Finding; onChoose: () => void }) {
  return (
    <button
      type="button"
      onClick={onChoose}
      className="hover:bg-dune -mx-1 block w-full rounded-[3px] px-1 text-left"
    >
      <span className="flex items-baseline gap-3">
        <span className={`grow font-medium ${f.fault ? "text-clay" : ""}`}>{f.title}</span>
        <span className="font-mono text-[0.87rem] whitespace-nowrap">{f.figure}</span>
      </span>
      <span className="text-soft block text-[0.95rem]">
        {f.says} <i>{sureWord(f.sure)}</i>
      </span>
    </button>
  );
}

export function Tries({ tries }: { tries: readonly string[] }) {
  return (
    <details className="text-[0.95rem]">
      <summary className="text-clay min-h-6 cursor-pointer">what to try</summary>
      <ul className="list-disc pl-5">
        {tries.map((t) => (
          <li key={t}>{t}</li>
        ))}
      </ul>
    </details>
  );
}

function sureWord(sure: string): string {
  if (sure === "clear") return "Clear.";
  return sure === "likely" ? "Likely, not certain." : "";
}
