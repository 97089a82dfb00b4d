import { inWords, Refused, Unreachable } from "../api/client";
import { Observable } from "./observable";
import { type Kept, NOTHING_KEPT, readKept, type Task } from "./tasks";

export type OutboxState = Kept & {
  /** Why what waits cannot be sent at the moment, or what was set aside could not be taken. */
  readonly trouble: string | null;
};

export type Post = {
  /** Sends one; what it throws says whether it is worth another try. */
  readonly send: (task: Task) => Promise<void>;
  /** The server does not take it and never will. */
  readonly refused: (task: Task, why: string) => Promise<void>;
};

/** Pause before another try, ms. */
const AGAIN_MS = 1500;
/** Tries of something the server fails at, before the rest goes on without it. */
const TRIES = 3;

/**
 * What was done and is not confirmed: sent one after the other, kept in the browser until the
 * server has it, also over a reload. While the server is away or its disk is full all of it waits.
 * What the server itself fails at is tried a few times, then set aside: the rest goes on, and what
 * lies aside is offered again.
 */
export class Outbox extends Observable<OutboxState> {
  private readonly drawer: string;
  private readonly post: Post;
  /** Tasks that this page has taken on: the drawer may hold those of another window too. */
  private readonly own = new Set<string>();
  private busy = false;
  private closed = false;
  private tries = 0;

  constructor(drawer: string, post: Post) {
    super({ ...NOTHING_KEPT, trouble: null });
    this.drawer = drawer;
    this.post = post;
    const { waiting, aside } = this.stored();
    // What could not be taken before is offered again, before what came after it.
    this.state = { waiting: [...aside, ...waiting], aside: [], trouble: null };
    for (const task of this.state.waiting) this.own.add(task.id);
  }

  /** All that is not confirmed, in the order it was done. */
  get tasks(): readonly Task[] {
    return [...this.state.aside, ...this.state.waiting];
  }

  open(): void {
    this.closed = false;
    void this.work();
  }

  /** Stops trying; what waits stays in the browser. A sending under way is finished. */
  close(): void {
    this.closed = true;
  }

  add(task: Task): void {
    this.own.add(task.id);
    this.keep({ waiting: [...this.state.waiting, task] });
    void this.work();
  }

  /** Changes a task that is to be sent. */
  replace(task: Task): void {
    this.keep({ waiting: this.state.waiting.map((t) => (t.id === task.id ? task : t)) });
  }

  /** Offers again what lies aside. */
  again(): void {
    this.keep({ waiting: this.tasks, aside: [], trouble: null });
    void this.work();
  }

  /** Gives up what lies aside. */
  letGo(): void {
    this.keep({ aside: [], trouble: null });
  }

  /** Resolves when nothing waits. */
  sent(): Promise<void> {
    if (this.state.waiting.length === 0) return Promise.resolve();
    return new Promise((done) => {
      const stop = this.subscribe(() => {
        if (this.state.waiting.length > 0) return;
        stop();
        done();
      });
    });
  }

  private async work(): Promise<void> {
    if (this.busy) return;
    this.busy = true;
    while (!this.closed) {
      const task = this.state.waiting[0];
      if (!task) break;
      try {
        await this.post.send(task);
        this.tries = 0;
        this.keep({ waiting: this.rest(task), ...this.calm() });
      } catch (error) {
        await this.failed(task, error);
      }
    }
    this.busy = false;
  }

  private async failed(task: Task, error: unknown): Promise<void> {
    const why = inWords(error);
    const status = error instanceof Refused ? error.problem.status : 0;
    const code = error instanceof Refused ? error.problem.code : "";
    // Another yard answers, or nobody is signed in: what was done here is for its own, and for who did it.
    const away = error instanceof Unreachable || code === "other-yard" || status === 401;
    if (away || status === 503 || status === 507) {
      this.put({ ...this.state, trouble: why });
      return pause();
    }
    if (status >= 500) {
      this.tries += 1;
      if (this.tries < TRIES) {
        this.put({ ...this.state, trouble: why });
        return pause();
      }
      return this.setAside(task, why);
    }
    // It may rest on what lies aside; a clip that is not there may come back, and so may a right.
    const rests = status === 409 && this.state.aside.length > 0;
    if (rests || status === 404 || status === 403) return this.setAside(task, why);
    this.tries = 0;
    this.keep({ waiting: this.rest(task), ...this.calm() });
    await this.post.refused(task, why);
  }

  private setAside(task: Task, why: string): void {
    this.tries = 0;
    this.keep({ waiting: this.rest(task), aside: [...this.state.aside, task], trouble: why });
  }

  private rest(done: Task): readonly Task[] {
    return this.state.waiting.filter((t) => t.id !== done.id);
  }

  /** Trouble with what lies aside stays on the page; any other has passed. */
  private calm(): Partial<OutboxState> {
    return this.state.aside.length > 0 ? {} : { trouble: null };
  }

  private keep(change: Partial<OutboxState>): void {
    const next = { ...this.state, ...change };
    const there = this.stored();
    const foreign = (t: Task) => !this.own.has(t.id);
    const waiting = [...there.waiting.filter(foreign), ...next.waiting];
    const aside = [...there.aside.filter(foreign), ...next.aside];
    try {
      if (waiting.length + aside.length === 0) localStorage.removeItem(this.drawer);
      else localStorage.setItem(this.drawer, JSON.stringify({ waiting, aside }));
    } catch {
      // A browser without storage still saves to the server.
    }
    this.put(next);
  }

  private stored(): Kept {
    try {
      return readKept(localStorage.getItem(this.drawer));
    } catch {
      return NOTHING_KEPT;
    }
  }
}

function pause(): Promise<void> {
  return new Promise((done) => setTimeout(done, AGAIN_MS));
}
