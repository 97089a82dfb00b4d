import type { Schemas } from "../api/client";

export type Limb = Schemas["LimbCode"];

/** Rings of the wheel from outside in, lanes of the strip from above: diagonal partners are
 * neighbours. */
export const RINGS: readonly Limb[] = ["LF", "RH", "LH", "RF"];

/** The server's order of arrays by limb. */
export const ORDER: readonly Limb[] = ["LF", "RF", "LH", "RH"];

export const NAMES: Record<Limb, string> = {
  LF: "left fore",
  RF: "right fore",
  LH: "left hind",
  RH: "right hind",
};

export const isLeft = (limb: Limb) => limb.startsWith("L");
export const isHind = (limb: Limb) => limb.endsWith("H");
export const inkOf = (limb: Limb) => (isLeft(limb) ? "var(--cool)" : "var(--warm)");
export const paleOf = (limb: Limb) => (isLeft(limb) ? "var(--cool-pale)" : "var(--warm-pale)");

type Props = {
  limb: Limb;
  x: number;
  y: number;
  /** Half the mark's width. */
  r: number;
  /** Turn of a square mark, degrees. */
  turn?: number;
  faint?: boolean;
};

/** A limb's mark: left round, right square; hind filled, fore outlined. */
export function LimbMark({ limb, x, y, r, turn = 0, faint = false }: Props) {
  const ink = inkOf(limb);
  const look = {
    fill: isHind(limb) ? ink : "var(--chalk)",
    stroke: ink,
    strokeWidth: r > 5 ? 2 : 1.4,
    opacity: faint ? 0.38 : 1,
  };
  if (isLeft(limb)) return <circle cx={x} cy={y} r={r} {...look} />;
  const side = r * 1.8;
  return (
    <rect
      x={x - side / 2}
      y={y - side / 2}
      width={side}
      height={side}
      transform={turn ? `rotate(${turn} ${x} ${y})` : undefined}
      {...look}
    />
  );
}
