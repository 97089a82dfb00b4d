import { api, inWords, taken } from "../api/client";
import type { Limb } from "../ui/limbs";
import type { Change, DeskStore, Mark } from "./clip-store";
import { type FrameClock, nearest } from "./frame-clock";
import { otherSide } from "./marks";
import { name } from "./names";
import { Observable } from "./observable";
import { answered, isOpen, nextStride } from "./suggestions";

export type Carried = {
  /** Foretold footfalls, each on its frame, in order of time. */
  readonly marks: readonly Mark[];
  /** The limb that keys move. */
  readonly focus: Limb | null;
  /** Why there is nothing to foretell. */
  readonly message: string | null;
};

const NOTHING: Carried = { marks: [], focus: null, message: null };

/**
 * Carrying on: the next footfall of every limb is foretold and shown on its own frame. What the
 * coach has looked at and taken becomes marks, a stride an edit; nothing foretold counts before.
 */
export class Carry extends Observable<Carried> {
  private readonly clip: number;
  private readonly clock: FrameClock;
  private readonly store: DeskStore;
  private asking = false;
  /** Ended while the next stride was being foretold. */
  private stopped = false;
  /** Names of what was suggested of the stride on screen: what is taken changes it. */
  private suggested = new Set<string>();

  constructor(clip: number, clock: FrameClock, store: DeskStore) {
    super(NOTHING);
    this.clip = clip;
    this.clock = clock;
    this.store = store;
  }

  /** The next stride is on its way: keys for this one come too late. */
  get waiting(): boolean {
    return this.asking;
  }

  get active(): boolean {
    return this.state.marks.length > 0;
  }

  /** Takes what is foretold, if anything is, and foretells the next. */
  async on(): Promise<void> {
    if (this.asking) return;
    this.asking = true;
    this.stopped = false;
    const taken_marks = this.state.marks;
    let after = this.lastMarked();
    const first = taken_marks.length === 0;
    if (!first) {
      const changes = taken_marks.flatMap((m) => this.answer(m));
      if (changes.length > 0) this.store.change(changes);
      after = Math.max(...taken_marks.map((m) => m.on_us));
    }
    const found = this.found(after, first);
    this.suggested = new Set(found.map((m) => m.id));
    if (found.length > 0) {
      this.put({ marks: found, focus: null, message: null });
      this.clock.goTo(nearest(this.clock.times, found[0]?.on_us ?? 0));
      this.asking = false;
      return;
    }
    try {
      await this.store.saved();
      const params = { path: { clip: this.clip }, query: { after_us: after } };
      const { next } = await taken(api.GET("/api/clips/{clip}/next", { params }));
      if (this.stopped) return;
      const marks = next.flatMap((f) => this.onFrames(f));
      this.put({
        marks,
        focus: null,
        message:
          marks.length > 0
            ? null
            : "Nothing to carry on from: mark a stride and one footfall more, or the clip ends here.",
      });
      const first = marks[0];
      if (first) this.clock.goToTime(first.on_us);
    } catch (error) {
      this.put({ ...NOTHING, message: inWords(error) });
    } finally {
      this.asking = false;
    }
  }

  /** Ends it; what was foretold and not taken goes. */
  stop(): void {
    this.stopped = true;
    this.put(NOTHING);
  }

  /** The limb that keys move from now on; again: the whole stride. */
  focus(limb: Limb): void {
    const mark = this.state.marks.find((m) => m.limb === limb);
    if (!mark) return;
    this.put({ ...this.state, focus: this.state.focus === limb ? null : limb });
    this.clock.goToTime(mark.on_us);
  }

  /** Leaves the limb in focus out of this stride; a suggestion of it is no footfall. */
  drop(): void {
    const focused = this.state.marks.find((m) => m.limb === this.state.focus);
    const before = this.store.snapshot().marks.find((m) => m.id === focused?.id);
    if (before && isOpen(before)) this.store.change([{ before, after: null }]);
    const marks = this.state.marks.filter((m) => m.limb !== this.state.focus);
    this.put({ ...this.state, marks, focus: null });
  }

  /** Moves the footfall in focus, and its stance with it, by frames; without a focus the whole
   * stride: a longer or shorter stride moves all its footfalls alike. */
  nudge(by: number): void {
    const { marks, focus } = this.state;
    const moves = (m: Mark) => focus === null || m.limb === focus;
    const moved = marks.map((m) => (moves(m) ? this.moved(m, by) : m));
    this.put({ ...this.state, marks: inTime(moved) });
    const mark = moved.find(moves);
    if (mark) this.clock.goToTime(mark.on_us);
  }

  /** Changes left and right of what is foretold: the horse has changed its lead. */
  swap(): void {
    const marks = this.state.marks.map((m) => ({ ...m, limb: otherSide(m.limb) }));
    this.put({ ...this.state, marks });
  }

  /** What taking a footfall changes; nothing when its suggestion was answered meanwhile. */
  private answer(mark: Mark): Change[] {
    if (!this.suggested.has(mark.id)) return [{ before: null, after: mark }];
    const before = this.store.snapshot().marks.find((m) => m.id === mark.id);
    return before && isOpen(before) ? [{ before, after: answered(mark, "looked") }] : [];
  }

  /** The next stride that is suggested, when it is near. Before the first: where the playhead is. */
  private found(after: number, first: boolean): Mark[] {
    const { marks } = this.store.snapshot();
    const next = nextStride(marks, first ? this.clock.target() - EARLY_US : after);
    const begins = next[0]?.on_us;
    if (begins === undefined) return [];
    const counted = marks.findLast((m) => !isOpen(m) && m.on_us < begins);
    return counted && begins - counted.on_us > FAR_US ? [] : next;
  }

  private lastMarked(): number {
    const { selected } = this.store.snapshot();
    const marks = this.store.snapshot().marks.filter((m) => !isOpen(m));
    const here = marks.find((m) => m.id === selected)?.on_us;
    const latest = marks.findLast((m) => m.on_us <= this.clock.target() + 100_000);
    return Math.max(here ?? -Infinity, latest?.on_us ?? marks.at(-1)?.on_us ?? 0);
  }

  private onFrames(f: { limb: Limb; on_us: number; off_us?: number | null }): Mark[] {
    const { times } = this.clock;
    const last = times.at(-1) ?? 0;
    const on = times[nearest(times, f.on_us)];
    if (on === undefined || f.on_us > last) return [];
    const off = typeof f.off_us === "number" && f.off_us <= last ? f.off_us : null;
    const off_us = off === null ? null : (times[nearest(times, off)] ?? null);
    return [{ id: name(), limb: f.limb, on_us: on, off_us, origin: { how: "stepped" } }];
  }

  private moved(mark: Mark, by: number): Mark {
    const { times } = this.clock;
    const on = times[nearest(times, mark.on_us) + by];
    const off =
      typeof mark.off_us === "number" ? times[nearest(times, mark.off_us) + by] : undefined;
    if (on === undefined) return mark;
    return { ...mark, on_us: on, off_us: off ?? null, origin: { how: "stepped" } };
  }
}

/** A stride that is suggested begins a little before the playhead. */
const EARLY_US = 100_000;
/** Suggestions farther than this from the last mark are not carried on to. */
const FAR_US = 2_000_000;

function inTime(marks: readonly Mark[]): readonly Mark[] {
  return [...marks].sort((a, b) => a.on_us - b.on_us);
}
