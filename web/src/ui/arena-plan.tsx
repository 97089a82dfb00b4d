import type { ReactNode } from "react";

type Place = { x_m: number; y_m: number };
type Props = {
  size: { width_m: number; length_m: number };
  letters: readonly (Place & { name: string })[];
  /** What stands outside the rail and must be seen, such as a camera. */
  reach?: readonly Place[];
  label: string;
  className?: string;
  onPlace?: ((x_m: number, y_m: number) => void) | undefined;
  children?: ReactNode;
};

/** From above, lying on its side: A on the left, C on the right, K's side at the top, as it is
 * seen from A when the plan is turned. Everything inside is drawn in metres, x down, y right. */
export function ArenaPlan({
  size,
  letters,
  reach = [],
  label,
  className,
  onPlace,
  children,
}: Props) {
  const { width_m: w, length_m: l } = size;
  const far = (value: number, most: number) => Math.min(Math.max(value, -25), most + 25);
  const xs = reach.map((p) => far(p.x_m, w));
  const ys = reach.map((p) => far(p.y_m, l));
  const top = Math.min(-2.8, ...xs.map((x) => x - 1.5));
  const bottom = Math.max(w + 2.8, ...xs.map((x) => x + 1.5));
  const left = Math.min(-3, ...ys.map((y) => y - 2));
  const right = Math.max(l + 3, ...ys.map((y) => y + 2));
  // What lies far outside makes everything small; letters stay readable.
  const large = Math.max(1, (bottom - top) / 26);
  return (
    <svg
      viewBox={`${left} ${top} ${right - left} ${bottom - top}`}
      className={`bg-chalk rounded-[3px] ${className ?? "w-full"}`}
      role="img"
      aria-label={label}
      onClick={
        onPlace &&
        ((e) => {
          const box = e.currentTarget.getScreenCTM()?.inverse();
          if (!box) return;
          const p = new DOMPoint(e.clientX, e.clientY).matrixTransform(box);
          onPlace(Math.round(p.y * 2) / 2, Math.round(p.x * 2) / 2);
        })
      }
    >
      <rect
        x={0}
        y={0}
        width={l}
        height={w}
        fill="var(--sand)"
        stroke="var(--ink)"
        strokeWidth={0.14}
      />
      {letters.map((p) => {
        const edge = p.x_m <= 0 || p.x_m >= w || p.y_m <= 0 || p.y_m >= l;
        const out = letterAt(p, w, l);
        return (
          <text
            key={p.name}
            x={out.y}
            y={out.x + 0.6}
            fontSize={(edge ? 1.7 : 1.4) * large}
            textAnchor="middle"
            fill={edge ? "var(--ink)" : "var(--soft)"}
          >
            {p.name}
          </text>
        );
      })}
      {children}
    </svg>
  );
}

/** Letters stand outside the rail, those of the centre line on it. */
function letterAt({ x_m, y_m }: Place, w: number, l: number) {
  if (x_m <= 0) return { x: -1.5, y: y_m };
  if (x_m >= w) return { x: w + 1.5, y: y_m };
  if (y_m <= 0) return { x: x_m, y: -1.6 };
  if (y_m >= l) return { x: x_m, y: l + 1.6 };
  return { x: x_m, y: y_m };
}
