import type { Pen } from "./draw";

/** A pen that writes what a canvas would draw as SVG elements. */
export class SvgPen implements Pen {
  fillStyle: Pen["fillStyle"] = "#000";
  strokeStyle: Pen["strokeStyle"] = "#000";
  lineWidth = 1;
  globalAlpha = 1;
  private dash: number[] = [];
  private path = "";
  readonly parts: string[] = [];

  clearRect(): void {
    this.parts.length = 0;
  }
  setLineDash(dash: number[]): void {
    this.dash = dash;
  }
  fillRect(x: number, y: number, w: number, h: number): void {
    this.put("rect", `x="${n(x)}" y="${n(y)}" width="${n(w)}" height="${n(h)}"`, true);
  }
  strokeRect(x: number, y: number, w: number, h: number): void {
    this.put("rect", `x="${n(x)}" y="${n(y)}" width="${n(w)}" height="${n(h)}"`, false);
  }
  beginPath(): void {
    this.path = "";
  }
  moveTo(x: number, y: number): void {
    this.path += `M${n(x)} ${n(y)}`;
  }
  lineTo(x: number, y: number): void {
    this.path += `L${n(x)} ${n(y)}`;
  }
  rect(x: number, y: number, w: number, h: number): void {
    this.path += `M${n(x)} ${n(y)}h${n(w)}v${n(h)}h${n(-w)}Z`;
  }
  /** Whole turns are all that is drawn; the path has been moved to the circle's right. */
  arc(x: number, y: number, r: number): void {
    this.path += `M${n(x + r)} ${n(y)}A${n(r)} ${n(r)} 0 1 1 ${n(x - r)} ${n(y)}`;
    this.path += `A${n(r)} ${n(r)} 0 1 1 ${n(x + r)} ${n(y)}Z`;
  }
  fill(): void {
    if (this.path) this.put("path", `d="${this.path}"`, true);
  }
  stroke(): void {
    if (this.path) this.put("path", `d="${this.path}"`, false);
  }

  private put(tag: string, place: string, filled: boolean): void {
    const alpha = this.globalAlpha < 1 ? ` opacity="${n(this.globalAlpha)}"` : "";
    const dash = this.dash.length > 0 ? ` stroke-dasharray="${this.dash.join(" ")}"` : "";
    const look = filled
      ? `fill="${String(this.fillStyle)}"`
      : `fill="none" stroke="${String(this.strokeStyle)}" stroke-width="${n(this.lineWidth)}"${dash}`;
    this.parts.push(`<${tag} ${place} ${look}${alpha}/>`);
  }
}

const n = (v: number) => String(Math.round(v * 100) / 100);
