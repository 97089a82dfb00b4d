import { ArenaPlan } from "../ui/arena-plan";
import { LimbMark } from "../ui/limbs";
import type { Calibration, Ground } from "./aim";

type Props = { ground: Ground; own: Calibration };

/** Where the hooves stood, on the arena; along a plain line when there is no ground plane. */
export function GroundPlan({ ground, own }: Props) {
  const plane = ground.ways.some((w) => w.source === "ground" && w.state === "used");
  if (ground.hooves.length > 0 && !plane) return <Line ground={ground} />;
  const { camera, hooves, posts } = ground;
  const sees = hooves.length > 1 && camera ? [hooves[0], hooves.at(-1)] : [];
  return (
    <ArenaPlan
      size={own.arena}
      letters={posts.map((p) => ({ ...p, ...inside(p, own) }))}
      reach={camera ? [camera] : []}
      className="h-56 w-full shrink-0"
      label={`Plan of the arena with ${hooves.length} hoof prints and ${own.points.length} points of known place`}
    >
      {camera && sees.length === 2 && (
        <path
          d={`M${camera.y_m} ${camera.x_m}${sees.map((h) => `L${h?.y_m ?? 0} ${h?.x_m ?? 0}`).join("")}Z`}
          fill="var(--air)"
          opacity={0.8}
        />
      )}
      {own.points.map((p) => (
        <g key={p.name}>
          <title>{`${p.name}: ${p.x_m} m across, ${p.y_m} m along`}</title>
          <path d={`M${p.y_m} ${p.x_m - 0.6}l0.6 1h-1.2z`} fill="var(--clay)" />
        </g>
      ))}
      {hooves.map((h) => (
        <g key={h.id} transform={`translate(${h.y_m} ${h.x_m}) scale(0.055)`}>
          <title>{`${h.limb}: ${h.x_m.toFixed(2)} m across, ${h.y_m.toFixed(2)} m along`}</title>
          <LimbMark limb={h.limb} x={0} y={0} r={5} />
        </g>
      ))}
      {camera && (
        <g>
          <title>{`The camera: ${camera.x_m.toFixed(1)} m across, ${camera.y_m.toFixed(1)} m along, ${camera.height_m.toFixed(1)} m high`}</title>
          <circle cx={camera.y_m} cy={Math.max(-25, camera.x_m)} r={0.8} fill="var(--clay)" />
          <text
            x={camera.y_m + 1.4}
            y={Math.max(-25, camera.x_m) + 0.6}
            fontSize={1.5}
            fill="var(--clay)"
          >
            camera
          </text>
        </g>
      )}
    </ArenaPlan>
  );
}

/** Letters are drawn outside the rail by the plan itself. */
function inside(p: { x_m: number; y_m: number }, own: Calibration) {
  const within = (v: number, most: number) => Math.min(Math.max(v, 0), most);
  return { x_m: within(p.x_m, own.arena.width_m), y_m: within(p.y_m, own.arena.length_m) };
}

/** Prints along a line, left hooves above, right below. */
function Line({ ground }: { ground: Ground }) {
  const xs = ground.hooves.map((h) => h.x_m);
  const [from, to] = [Math.min(...xs), Math.max(...xs)];
  const long = Math.max(to - from, 1);
  const x = (m: number) => 30 + ((m - from) / long) * 740;
  return (
    <svg
      viewBox="0 0 800 120"
      className="bg-chalk h-32 w-full shrink-0 rounded-[3px]"
      role="img"
      aria-label={`${ground.hooves.length} hoof prints along ${long.toFixed(1)} m`}
    >
      <line x1={20} x2={780} y1={58} y2={58} stroke="var(--line)" />
      {ground.hooves.map((h) => (
        <g key={h.id}>
          <title>{`${h.limb}: ${h.x_m.toFixed(2)} m`}</title>
          <LimbMark limb={h.limb} x={x(h.x_m)} y={h.limb.startsWith("L") ? 40 : 76} r={5} />
        </g>
      ))}
      <text x={30} y={108} fontSize={14} fill="var(--soft)">
        {`${long.toFixed(1)} m along the line of travel`}
      </text>
    </svg>
  );
}
