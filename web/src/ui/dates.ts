const dayMonth = new Intl.DateTimeFormat("en-GB", { day: "numeric", month: "short" });
const full = new Intl.DateTimeFormat("en-GB", { day: "numeric", month: "long", year: "numeric" });

const local = (iso: string) => new Date(`${iso}T12:00:00`);

/** `14 Nov`. */
export const dayAndMonth = (iso: string) => dayMonth.format(local(iso));

/** `14 November 2026`. */
export const inFull = (iso: string) => full.format(local(iso));

/** Today as `YYYY-MM-DD` where the coach is. */
export function today(): string {
  const now = new Date();
  const two = (n: number) => String(n).padStart(2, "0");
  return `${now.getFullYear()}-${two(now.getMonth() + 1)}-${two(now.getDate())}`;
}
