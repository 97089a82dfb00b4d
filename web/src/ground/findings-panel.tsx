import { FindingLine, Tries } from "../ui/findings";
import type { FrameClock } from "../live/frame-clock";
import { Button } from "../ui/button";
import type { Ground } from "./aim";
import { BoutTable } from "./bout-table";

type Props = {
  ground: Ground;
  slow: number;
  clock: FrameClock;
  onJob: (job: "scale" | "hooves") => void;
};

/** What the ground tells: findings, then every bout's figures. */
export function FindingsPanel({ ground, slow, clock, onJob }: Props) {
  const scaled = ground.ways.some((w) => w.state === "used");
  const jump = (s: number) => clock.goToTime(s * slow * 1e6 + 1);
  return (
    <>
      {!scaled && (
        <p className="border-clay mb-2 border-l-3 pl-2">
          Metres need a scale. The best is four points of known place on the ground, seen by a
          camera that stands still.
          <Button plain className="ml-1" onClick={() => onJob("scale")}>
            Give it a scale
          </Button>
        </p>
      )}
      {scaled && ground.hooves.length === 0 && ground.to_click.length > 0 && (
        <p className="border-clay mb-2 border-l-3 pl-2">
          Now click each hoof once where it stands: the frame is offered.
          <Button plain className="ml-1" onClick={() => onJob("hooves")}>
            Click hooves
          </Button>
        </p>
      )}
      <ul>
        {ground.findings.map((f) => (
          <li key={`${f.code}${f.start_s}`} className="border-line border-b py-1.5">
            <FindingLine finding={f} onChoose={() => jump(f.start_s)} />
            {f.try.length > 0 && <Tries tries={f.try} />}
            {f.caution && <p className="border-clay mt-1 border-l-3 pl-2 text-sm">{f.caution}</p>}
          </li>
        ))}
      </ul>
      <BoutTable bouts={ground.bouts.filter((b) => b.strides > 0)} jump={jump} />
    </>
  );
}
