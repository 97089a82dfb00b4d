/** Days of the month of a day, in weeks from Monday; empty places hold nothing. */
export function weeksOf(iso: string): (string | null)[][] {
  const [year = 2000, month = 1] = iso.split("-").map(Number);
  const first = new Date(Date.UTC(year, month - 1, 1));
  const days = new Date(Date.UTC(year, month, 0)).getUTCDate();
  const before = (first.getUTCDay() + 6) % 7;
  const cells: (string | null)[] = Array.from({ length: before }, () => null);
  for (let day = 1; day <= days; day++) {
    cells.push(new Date(Date.UTC(year, month - 1, day)).toISOString().slice(0, 10));
  }
  while (cells.length % 7 > 0) cells.push(null);
  return Array.from({ length: cells.length / 7 }, (_, k) => cells.slice(7 * k, 7 * k + 7));
}

/** A day some days on, or back. */
export function daysOn(iso: string, by: number): string {
  const day = new Date(`${iso}T00:00:00Z`);
  day.setUTCDate(day.getUTCDate() + by);
  return day.toISOString().slice(0, 10);
}

/** The same day some months on, or back; the last of the month where there is none. */
export function monthsOn(iso: string, by: number): string {
  const [year = 2000, month = 1, day = 1] = iso.split("-").map(Number);
  const last = new Date(Date.UTC(year, month - 1 + by + 1, 0)).getUTCDate();
  const there = new Date(Date.UTC(year, month - 1 + by, Math.min(day, last)));
  return there.toISOString().slice(0, 10);
}

/** A day as people write it: `2026-11-14`, `14.11.2026`, `14/11/26`, `14 11`; nothing when it is none. */
export function dayOf(text: string, now: string): string | null {
  const numbers = text
    .trim()
    .split(/[^0-9]+/)
    .filter(Boolean)
    .map(Number);
  const [a, b, c] = numbers;
  if (a === undefined || b === undefined) return null;
  const thisYear = Number(now.slice(0, 4));
  const [year, month, day] =
    a > 31 ? [a, b, c ?? 1] : [c === undefined ? thisYear : c < 100 ? 2000 + c : c, b, a];
  const there = new Date(Date.UTC(year, month - 1, day));
  const same = there.getUTCMonth() === month - 1 && there.getUTCDate() === day;
  return same && year >= 1990 && year <= 2200 ? there.toISOString().slice(0, 10) : null;
}
