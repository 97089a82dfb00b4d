import { api, type Schemas, taken } from "../api/client";
import type { Limb } from "../ui/limbs";
import type { DeskStore, Mark } from "./clip-store";
import type { FrameClock } from "./frame-clock";
import { frameAt, nearest } from "./frame-clock";
import { otherSide } from "./marks";
import { Observable } from "./observable";
import { answered, isOpen } from "./suggestions";

export type Looked = {
  /** The suggestion that is looked at, as it would be taken; or a footfall that none of them is, where it is due. */
  readonly mark: Mark | null;
  /** Whether it is one that was missed. */
  readonly missed: boolean;
  /** How many want a look after this one. */
  readonly left: number;
  /** What there is to say when it is over. */
  readonly message: string | null;
};

type Missed = Schemas["Missed"];

const NOTHING: Looked = { mark: null, missed: false, left: 0, message: null };

/** A footfall that was missed is due at a moment that shifts this much as others are answered, µs. */
const SAME_US = 150_000;

/** Walks through the suggestions that want a look, one after the other; the coach takes each, moves it,
 * gives it to another limb, or removes it. */
export class Looking extends Observable<Looked> {
  private readonly clip: number;
  private readonly clock: FrameClock;
  private readonly store: DeskStore;
  private passed = new Set<string>();
  private passedBy: Missed[] = [];
  private answered: Missed[] = [];
  private from: Mark | null = null;

  constructor(clip: number, clock: FrameClock, store: DeskStore) {
    super(NOTHING);
    this.clip = clip;
    this.clock = clock;
    this.store = store;
  }

  get active(): boolean {
    return this.state.mark !== null;
  }

  /** Shows the next that wants a look, or that was missed; the one on screen stays as it was. */
  next(): void {
    if (this.from) this.passed.add(this.from.id);
    else if (!this.active) this.forget();
    const wanted = new Set(this.store.snapshot().desk.found?.doubtful ?? []);
    const open = this.store.snapshot().marks.filter((m) => wanted.has(m.id) && isOpen(m));
    const marks = open.filter((m) => !this.passed.has(m.id));
    const missed = this.missed().filter((m) => !this.passedBy.some((p) => same(p, m)));
    const [mark, miss] = [marks[0], missed[0]];
    const left = marks.length + missed.length - 1;
    if (miss && !(mark && mark.on_us <= miss.at_us)) {
      this.from = null;
      this.passedBy.push(miss);
      return this.show(this.due(miss), true, left);
    }
    this.from = mark ?? null;
    if (mark) return this.show(mark, false, left);
    const asFound = open.length + this.missed().length;
    const message =
      asFound > 0
        ? `Nothing more wants a look; ${asFound === 1 ? "one is" : `${asFound} are`} left as found.`
        : "Nothing found by itself wants a look.";
    this.put({ ...NOTHING, message });
  }

  private show(mark: Mark, missed: boolean, left: number): void {
    if (!missed) this.store.select(mark.id);
    this.clock.goTo(nearest(this.clock.times, mark.on_us));
    this.put({ mark, missed, left, message: null });
  }

  /** What was missed and has no answer yet; the server says so anew only after a while. */
  private missed(): readonly Missed[] {
    const all = this.store.snapshot().desk.found?.missed ?? [];
    return all.filter((m) => !this.answered.some((a) => same(a, m)));
  }

  private answer(): void {
    const shown = this.passedBy.at(-1);
    if (this.state.missed && shown) this.answered.push(shown);
  }

  /** A missed footfall on the frame it is due on, where hooves of its girdle stood before and after it. */
  private due({ limb, at_us }: Missed): Mark {
    const { times } = this.clock;
    const beside = this.store
      .snapshot()
      .marks.filter((m) => m.hoof && m.limb.endsWith(limb.slice(1)));
    const [before, after] = [
      beside.findLast((m) => m.on_us <= at_us),
      beside.find((m) => m.on_us > at_us),
    ];
    return {
      id: crypto.randomUUID(),
      limb,
      on_us: times[nearest(times, at_us)] ?? at_us,
      off_us: null,
      origin: { how: "stepped" },
      hoof: between(at_us, before, after),
    };
  }

  /** Takes it as it stands now, and shows the next. */
  take(): void {
    const { mark, missed } = this.state;
    if (!mark) return;
    if (missed) {
      this.answer();
      // Where it stands is a guess, for the eye only.
      this.store.change([{ before: null, after: { ...mark, hoof: null } }]);
      return this.next();
    }
    const from = this.standing();
    if (from) this.store.change([{ before: from, after: answered(mark, "looked") }]);
    this.next();
    if (from && mark.limb !== from.limb) void tellAnew(this.clip, this.store);
  }

  /** It is no footfall. */
  remove(): void {
    this.answer();
    const from = this.standing();
    if (from) this.store.change([{ before: from, after: null }]);
    this.next();
  }

  /** The suggestion on screen as it stands; nothing when it was answered meanwhile. */
  private standing(): Mark | undefined {
    return this.store.snapshot().marks.find((m) => m.id === this.from?.id && isOpen(m));
  }

  relabel(limb: Limb): void {
    const { mark } = this.state;
    if (mark) this.put({ ...this.state, mark: { ...mark, limb } });
  }

  swap(): void {
    const { mark } = this.state;
    if (mark) this.relabel(otherSide(mark.limb));
  }

  /** Moves it by frames: it is the coach's own then. */
  nudge(by: number): void {
    const { mark } = this.state;
    if (!mark) return;
    const { times } = this.clock;
    const on_us = times[nearest(times, mark.on_us) + by];
    if (on_us === undefined) return;
    const off = mark.off_us;
    const off_us = typeof off === "number" && off > on_us ? off : null;
    const moved = { ...mark, on_us, off_us, origin: { how: "stepped" as const } };
    this.clock.goTo(frameAt(times, on_us));
    this.put({ ...this.state, mark: moved });
  }

  /** Ends it; the one on screen stays as it was. */
  stop(): void {
    this.forget();
    this.put(NOTHING);
  }

  private forget(): void {
    this.from = null;
    this.passed.clear();
    this.passedBy = [];
    this.answered = [];
  }
}

const same = (a: Missed, b: Missed) => a.limb === b.limb && Math.abs(a.at_us - b.at_us) < SAME_US;

/** Where a hoof may stand between two others: as far along as the moment is. */
function between(at_us: number, before?: Mark, after?: Mark): Mark["hoof"] {
  const [a, b] = [before?.hoof, after?.hoof];
  if (!before || !after || !a || !b) return a ?? b ?? null;
  const part = (at_us - before.on_us) / (after.on_us - before.on_us);
  return {
    ...a,
    x_px: a.x_px + part * (b.x_px - a.x_px),
    y_px: a.y_px + part * (b.y_px - a.y_px),
  };
}

/** After the coach has said of a suggestion which limb it is: the others are told anew about it. */
export async function tellAnew(clip: number, store: DeskStore): Promise<void> {
  try {
    await store.saved();
    const params = { path: { clip } };
    const { changes } = await taken(api.GET("/api/clips/{clip}/told-anew", { params }));
    if (changes.length > 0) store.change(changes);
  } catch {
    // The coach's own word stands; the others stay as they were suggested.
  }
}
