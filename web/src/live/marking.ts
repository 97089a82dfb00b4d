import type { Limb } from "../ui/limbs";
import type { DeskStore, Mark } from "./clip-store";
import type { FrameClock } from "./frame-clock";
import { onFrame, openStance, sorted } from "./marks";
import { name } from "./names";
import { Observable } from "./observable";

/** A key held this long is a stance, not a tap, ms. */
const HOLD_MS = 220;

export type Held = { limb: Limb; on_us: number; since: number; rate: number | null };

/**
 * Marks made by key, with the limbs whose key is down: pressed at the frame on screen, they become a footfall when tapped and a
 * stance when held while time moves on.
 */
export class Marking extends Observable<readonly Held[]> {
  private readonly clock: FrameClock;
  private readonly store: DeskStore;
  private held = new Map<Limb, Held>();

  constructor(clock: FrameClock, store: DeskStore) {
    super([]);
    this.clock = clock;
    this.store = store;
  }

  press(limb: Limb): void {
    if (this.held.has(limb)) return;
    const { playing, rate } = this.clock.snapshot();
    this.held.set(limb, {
      limb,
      on_us: this.clock.now(),
      since: performance.now(),
      rate: playing ? rate : null,
    });
    this.changed();
  }

  release(limb: Limb): void {
    const held = this.held.get(limb);
    if (!held) return;
    this.held.delete(limb);
    this.changed();
    const now = this.clock.now();
    const long = performance.now() - held.since >= HOLD_MS;
    // While the footage plays a quick tap also moves on by a frame or two; stepped frames are
    // meant.
    const stance = now > held.on_us && (held.rate === null || long);
    this.place(held, stance ? now : null);
  }

  releaseAll(): void {
    for (const limb of this.held.keys()) this.release(limb);
  }

  /** The limb is clear of the ground on the frame on screen: ends its latest stance. */
  lift(limb: Limb): void {
    const now = this.clock.now();
    const mark = openStance(this.store.snapshot().marks, limb, now);
    if (!mark || mark.off_us === now) return;
    this.store.change([{ before: mark, after: { ...mark, off_us: now } }]);
    this.store.select(mark.id);
  }

  private place(held: Held, off_us: number | null): void {
    const again = this.store.snapshot().again;
    if (again) {
      this.store.timeAgain({ ...again, marks: sorted([...again.marks, made(held, off_us)]) });
      return;
    }
    const there = onFrame(this.store.snapshot().marks, held.limb, held.on_us);
    if (there) {
      // The same footfall once more: only its end may be new.
      if (off_us !== null && off_us !== there.off_us) {
        this.store.change([{ before: there, after: { ...there, off_us } }]);
      }
      this.store.select(there.id);
      return;
    }
    const mark = made(held, off_us);
    this.store.change([{ before: null, after: mark }]);
    this.store.select(mark.id);
  }

  private changed(): void {
    this.put([...this.held.values()]);
  }
}

function made({ limb, on_us, rate }: Held, off_us: number | null): Mark {
  const origin: Mark["origin"] = rate === null ? { how: "stepped" } : { how: "tapped", rate };
  return { id: name(), limb, on_us, off_us, origin };
}
