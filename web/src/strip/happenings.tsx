import type { Schemas } from "../api/client";
import { BAND } from "./rows";

type Event = Schemas["Event"];

type Props = {
  events: readonly Event[];
  x: (us: number) => number;
  slow: number;
  width: number;
};

const SHOWN = new Set<Event["kind"]>(["flying_change", "transition", "halt", "simple_change"]);

/** Flying changes, transitions and halts as flags on the band of bouts. */
export function Happenings({ events, x, slow, width }: Props) {
  return events.map((event) => {
    if (!SHOWN.has(event.kind)) return null;
    const at = x(event.time_s * slow * 1e6);
    if (at < -4 || at > width + 4) return null;
    const fault = event.kind === "flying_change" && event.verdict !== "clean";
    const ink = fault ? "var(--clay)" : "var(--ink)";
    return (
      <g key={`${event.kind}${event.time_s}`}>
        <title>{inWords(event)}</title>
        <line x1={at} x2={at} y1={0} y2={BAND + 2} stroke={ink} strokeWidth={1.6} />
        {event.kind === "flying_change" ? (
          <path d={`M${at - 5} 3h10M${at - 5} 8h10`} stroke={ink} strokeWidth={2.4} />
        ) : (
          <circle cx={at} cy={5} r={3.4} fill={ink} />
        )}
      </g>
    );
  });
}

function inWords(event: Event): string {
  switch (event.kind) {
    case "flying_change": {
      const late = event.late_by_strides > 0 ? ` by ${event.late_by_strides}` : "";
      return `Flying change to the ${event.to} lead, ${event.verdict.replaceAll("_", " ")}${late}`;
    }
    case "transition": {
      const through =
        event.intermediate_steps > 0
          ? `, ${event.intermediate_steps} steps of ${event.intermediate} between`
          : "";
      return `${event.from} to ${event.to}, ${event.first_limb} first${through}`;
    }
    case "halt":
      return `Halt of ${event.duration_s.toFixed(1)} s, ${event.first_off} leaves first`;
    case "simple_change":
      return `Change to the ${event.to} lead through ${event.walk_steps} steps of walk`;
    default:
      return "";
  }
}
