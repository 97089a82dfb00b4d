import { type ReactNode, useState } from "react";

import { api, inWords, type Schemas, taken } from "../api/client";
import { Button } from "../ui/button";
import { Choice } from "../ui/choice";
import { Clicked } from "./clicked";
import { NumberField } from "../ui/number-field";
import { PlanePoints } from "./plane-points";
import { RoundsForm } from "./rounds-form";
import type { ScaleProps } from "./scale-props";
import { Hint } from "../ui/hint";

/** The five ways to metres, best first, each with its own error. */
export function ScalePanel(props: ScaleProps) {
  const { ground, own, onChange } = props;
  return (
    <>
      <ArenaSize own={own} onChange={onChange} />
      {ground.ways.map((w) => (
        <WayRow key={w.source} way={w}>
          {w.source === "ground" && <PlanePoints {...props} residuals={w.residuals_px} />}
          {w.source === "bar" && <BarForm {...props} />}
          {w.source === "letters" && <LettersForm {...props} />}
          {w.source === "figure" && <RoundsForm {...props} />}
          {w.source === "withers" && <WithersForm {...props} />}
        </WayRow>
      ))}
      <TakeOver {...props} />
    </>
  );
}

const STATES: Record<string, string> = {
  used: "in use",
  ready: "works; a better one is in use",
  refused: "not yet",
  empty: "",
};

function WayRow({ way, children }: { way: Schemas["Way"]; children: ReactNode }) {
  return (
    <details
      className="border-line border-b py-1.5"
      open={way.state === "used" || way.source === "ground"}
    >
      <summary className="flex min-h-8 cursor-pointer items-baseline gap-2">
        <span className="font-medium first-letter:uppercase">{way.name}</span>
        <span className={`grow text-sm ${way.state === "used" ? "text-clay" : "text-soft"}`}>
          {STATES[way.state]}
        </span>
        {typeof way.error_pct === "number" && (
          <Hint says="95 % error of one stride’s length by scale and clicks">
            <span className="font-mono text-[0.87rem]">
              ± {way.error_pct.toFixed(1)} % a stride
            </span>
          </Hint>
        )}
      </summary>
      <p className="text-soft text-[0.95rem]">{way.says}</p>
      {way.warnings.map((w) => (
        <p key={w} role="alert" className="border-clay mt-1 border-l-3 pl-2 text-[0.95rem]">
          {w}
        </p>
      ))}
      <div className="mt-1.5">{children}</div>
    </details>
  );
}

function ArenaSize({ own, onChange }: Pick<ScaleProps, "own" | "onChange">) {
  const { width_m: w, length_m: l } = own.arena;
  const known = w === 20 && (l === 60 || l === 40);
  const [free, setFree] = useState(!known);
  return (
    <div className="flex flex-wrap items-end gap-2 pb-1">
      <Choice
        label="Arena"
        value={free ? "free" : `${w}x${l}`}
        onChange={(v) => {
          setFree(v === "free");
          if (v !== "free") onChange({ arena: { width_m: 20, length_m: v === "20x40" ? 40 : 60 } });
        }}
      >
        <option value="20x60">20 × 60 m</option>
        <option value="20x40">20 × 40 m</option>
        <option value="free">another size</option>
      </Choice>
      {free && (
        <>
          <NumberField
            label="Wide"
            unit="m"
            value={w}
            onSave={(v) => onChange({ arena: { width_m: v, length_m: l } })}
          />
          <NumberField
            label="Long"
            unit="m"
            value={l}
            onSave={(v) => onChange({ arena: { width_m: w, length_m: v } })}
          />
        </>
      )}
    </div>
  );
}

function BarForm({ own, onAim, onChange }: ScaleProps) {
  const [at, setAt] = useState(own.bar.length === 0 ? 0 : 3);
  return (
    <>
      <Clicked
        rows={own.bar.map((p) => ({ key: `${p.at_m}`, says: `${p.at_m} m` }))}
        onTake={(key) => onChange({ bar: own.bar.filter((p) => `${p.at_m}` !== key) })}
      />
      <div className="flex items-end gap-2">
        <NumberField label="Distance from the first" unit="m" value={at} onSave={setAt} live />
        <Button onClick={() => onAim({ kind: "bar", at_m: at })}>Click it</Button>
      </div>
    </>
  );
}

function LettersForm({ own, onChange }: ScaleProps) {
  const d = own.distances ?? null;
  const save = (change: Partial<Schemas["CameraDistances"]>) =>
    onChange({ distances: { to_track_m: 10, to_letters_m: 12, ...d, ...change } });
  return (
    <div className="flex flex-wrap items-end gap-2">
      <NumberField
        label="Camera to the track"
        unit="m"
        value={d?.to_track_m ?? null}
        onSave={(to_track_m) => save({ to_track_m })}
      />
      <NumberField
        label="Camera to the letters"
        unit="m"
        value={d?.to_letters_m ?? null}
        onSave={(to_letters_m) => save({ to_letters_m })}
      />
      {d && (
        <Button plain onClick={() => onChange({ distances: null })}>
          Not known
        </Button>
      )}
    </div>
  );
}

function WithersForm({ own, onAim, onChange }: ScaleProps) {
  return (
    <div className="flex gap-2">
      <Button onClick={() => onAim({ kind: "withers", which: 0 })}>
        {own.withers.length === 0 ? "Click ground and withers" : "Click them again"}
      </Button>
      {own.withers.length > 0 && (
        <Button plain onClick={() => onChange({ withers: [] })}>
          Take them away
        </Button>
      )}
    </div>
  );
}

/** The same tripod place: another clip's scale holds here too. */
function TakeOver({ clip, ground, store }: ScaleProps) {
  const [trouble, setTrouble] = useState<string | null>(null);
  if (ground.others.length === 0) return null;
  const take = async (from: number) => {
    try {
      const other = await taken(
        api.GET("/api/clips/{clip}/ground", { params: { path: { clip: from } } }),
      );
      store.calibrate({ ...other.calibration, rounds: [], withers: [], from_clip: from });
    } catch (error) {
      setTrouble(inWords(error));
    }
  };
  return (
    <section className="pt-3" aria-label="Take over a scale">
      <h2 className="font-medium">From the same tripod place?</h2>
      <p className="text-soft text-[0.95rem]">
        If neither camera nor zoom has moved, take over the scale of another clip.
      </p>
      {trouble && <p role="alert">{trouble}</p>}
      <ul>
        {ground.others.map((o) => (
          <li key={o.clip} className="flex items-baseline gap-2">
            <span className="grow truncate">
              {o.name} {o.same_session ? "· this session" : (o.date ?? "")}
              {ground.calibration.from_clip === o.clip ? " · taken over" : ""}
            </span>
            <Button plain disabled={o.clip === clip.id} onClick={() => void take(o.clip)}>
              Take over
            </Button>
          </li>
        ))}
      </ul>
    </section>
  );
}
