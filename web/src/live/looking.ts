import { api, taken } from "../api/client";
import type { Limb } from "../ui/limbs";
import type { DeskStore, Mark } from "./clip-store";
import type { FrameClock } from "./frame-clock";
import { frameAt, nearest } from "./frame-clock";
import { otherSide } from "./marks";
import { Observable } from "./observable";
import { answered, isOpen } from "./suggestions";

export type Looked = {
  /** The suggestion that is looked at, as it would be taken. */
  readonly mark: Mark | null;
  /** How many want a look after this one. */
  readonly left: number;
  /** What there is to say when it is over. */
  readonly message: string | null;
};

const NOTHING: Looked = { mark: null, left: 0, message: null };

/** Walks through the suggestions that want a look, one after the other; the coach takes each, moves it,
 * gives it to another limb, or removes it. */
export class Looking extends Observable<Looked> {
  private readonly clip: number;
  private readonly clock: FrameClock;
  private readonly store: DeskStore;
  private passed = new Set<string>();
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

  /** Shows the next that wants a look; the one on screen stays as it was. */
  next(): void {
    if (this.from) this.passed.add(this.from.id);
    else this.passed.clear();
    const { marks, desk } = this.store.snapshot();
    const wanted = new Set(desk.found?.doubtful ?? []);
    const open = marks.filter((m) => wanted.has(m.id) && !this.passed.has(m.id));
    const mark = open.find(isOpen);
    this.from = mark ?? null;
    if (!mark) {
      const left = marks.filter((m) => wanted.has(m.id) && isOpen(m)).length;
      const message =
        left > 0
          ? `Nothing more wants a look; ${left === 1 ? "one is" : `${left} are`} left as found.`
          : "Nothing found by itself wants a look.";
      return this.put({ ...NOTHING, message });
    }
    this.store.select(mark.id);
    this.clock.goTo(nearest(this.clock.times, mark.on_us));
    this.put({ mark, left: open.length - 1, message: null });
  }

  /** Takes it as it stands now, and shows the next. */
  take(): void {
    const { mark } = this.state;
    if (!mark) return;
    const from = this.standing();
    if (from) this.store.change([{ before: from, after: answered(mark, "looked") }]);
    this.next();
    if (from && mark.limb !== from.limb) void tellAnew(this.clip, this.store);
  }

  /** It is no footfall. */
  remove(): void {
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
    this.from = null;
    this.passed.clear();
    this.put(NOTHING);
  }
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
