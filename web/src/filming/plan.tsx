import type { Question, Spot } from "./questions";

const SCALE = 10;
const LEFT: readonly [string, number][] = [
  ["K", 6],
  ["V", 18],
  ["E", 30],
  ["S", 42],
  ["H", 54],
];
const RIGHT: readonly [string, number][] = [
  ["F", 6],
  ["P", 18],
  ["B", 30],
  ["R", 42],
  ["M", 54],
];

/** The arena lies on its side, seen from above: A on the left, C on the right, K's side above. */
const px = (s: Spot) => ({ x: 90 + s.y * SCALE, y: 62 + s.x * SCALE });

/** The arena from above with the track ridden and what the camera sees. */
export function Plan({ question }: { question: Question }) {
  const camera = px(question.camera);
  const [a, b] = question.track.map(px) as [{ x: number; y: number }, { x: number; y: number }];
  return (
    <svg
      viewBox="0 0 780 305"
      className="bg-chalk w-full rounded-[3px]"
      role="img"
      aria-label={`Plan of a 20 by 60 metre arena. ${question.stand}`}
    >
      <rect x={90} y={62} width={600} height={200} fill="var(--sand)" stroke="var(--ink)" />
      <path
        d={`M${camera.x} ${camera.y}L${a.x} ${a.y}L${b.x} ${b.y}Z`}
        fill="var(--air)"
        opacity={0.75}
      />
      <Letters />
      <line
        x1={a.x}
        y1={a.y}
        x2={b.x}
        y2={b.y}
        stroke="var(--cool)"
        strokeWidth={5}
        strokeLinecap="round"
      />
      <Arrow from={a} to={b} />
      <g transform={`translate(${camera.x} ${camera.y})`}>
        {question.still && (
          <path d="M0 0 L-9 15 M0 0 L0 17 M0 0 L9 15" stroke="var(--clay)" strokeWidth={2} />
        )}
        <circle r={9} fill="var(--clay)" />
        <circle r={3.5} fill="var(--chalk)" />
      </g>
      <text x={camera.x + 16} y={camera.y + 5} fontSize={15} fill="var(--clay)">
        {question.still ? "tripod, stays still" : "follows the horse"}
      </text>
    </svg>
  );
}

function Letters() {
  const letter = (name: string, s: Spot) => {
    const p = px(s);
    return (
      <text key={name} x={p.x} y={p.y + 5} fontSize={16} textAnchor="middle" fill="var(--ink)">
        {name}
      </text>
    );
  };
  return (
    <>
      {LEFT.map(([name, y]) => letter(name, { x: -1.6, y }))}
      {RIGHT.map(([name, y]) => letter(name, { x: 21.6, y }))}
      {letter("A", { x: 10, y: -2 })}
      {letter("C", { x: 10, y: 62 })}
      {letter("X", { x: 10, y: 30 })}
    </>
  );
}

function Arrow({ from, to }: { from: { x: number; y: number }; to: { x: number; y: number } }) {
  const angle = (Math.atan2(to.y - from.y, to.x - from.x) * 180) / Math.PI;
  return (
    <path
      d="M-4 -9L14 0L-4 9Z"
      fill="var(--cool)"
      transform={`translate(${to.x} ${to.y}) rotate(${angle})`}
    />
  );
}
