import { api, inWords, Refused, type Schemas, taken, Unreachable } from "../api/client";
import { applied, inOrder, sorted } from "./marks";

export type Mark = Schemas["Mark"];
export type Change = Schemas["MarkChange"];
export type Tag = Schemas["Tag"];
export type TagEdit = Schemas["TagEdit"];
type Desk = Schemas["Desk"];
type Edit = Schemas["Edit"];
type Settings = Schemas["ClipSettings"];
type Task =
  | { kind: "edit"; edit: Edit }
  | { kind: "settings"; body: Schemas["SettingsEdit"] }
  | { kind: "calibration"; edit_id: string; calibration: Schemas["Calibration"] }
  | { kind: "undo" }
  | { kind: "redo" };

export type DeskState = {
  readonly marks: readonly Mark[];
  readonly tags: readonly Tag[];
  readonly desk: Desk;
  /** The footfall chosen last. */
  readonly selected: string | null;
  /** All that are chosen, that one among them. */
  readonly chosen: ReadonlySet<string>;
  /** A stretch that is being timed a second time, and its marks so far. */
  readonly again: Again | null;
  /** Edits that the server has not confirmed yet. */
  readonly unsaved: number;
  /** Why they cannot be saved at the moment. */
  readonly trouble: string | null;
  /** Something the coach should know once. */
  readonly message: string | null;
};

export type Again = { from: number; to: number; marks: readonly Mark[] };

const AGAIN_MS = 1500;

/**
 * The marks of one clip as the page shows them: changed at once, saved one after the other. What
 * the server has not confirmed is kept in the browser too and sent again, also after a reload; an
 * edit sent twice is made once.
 */
export class DeskStore {
  private readonly clip: number;
  private state: DeskState;
  private tasks: Task[] = [];
  private busy = false;
  private closed = false;
  private listeners = new Set<() => void>();

  constructor(clip: number, desk: Desk) {
    this.clip = clip;
    let marks: readonly Mark[] = desk.marks ?? [];
    let tags: readonly Tag[] = desk.tags;
    for (const edit of this.keptEdits()) {
      marks = applied(marks, edit.changes);
      tags = applied(tags, edit.tags ?? [], inOrder);
      this.tasks.push({ kind: "edit", edit });
    }
    this.state = {
      marks,
      tags,
      desk,
      selected: null,
      chosen: NONE,
      again: null,
      unsaved: this.tasks.length,
      trouble: null,
      message: null,
    };
  }

  readonly subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  readonly snapshot = (): DeskState => this.state;

  /** Begins to send what is kept; gives what stops it. */
  open(): () => void {
    this.closed = false;
    void this.work();
    return () => {
      this.closed = true;
    };
  }

  /** Chooses one footfall, or nothing. */
  select(id: string | null): void {
    if (id === this.state.selected && this.state.chosen.size <= 1) return;
    this.set({ selected: id, chosen: id === null ? NONE : new Set([id]) });
  }

  /** Chooses footfalls together; the last of them leads. */
  choose(ids: readonly string[]): void {
    this.set({ selected: ids.at(-1) ?? null, chosen: new Set(ids) });
  }

  /** Chooses one more, or one less. */
  alsoSelect(id: string): void {
    const chosen = new Set(this.state.chosen);
    if (chosen.has(id) && id !== this.state.selected) chosen.delete(id);
    else chosen.add(id);
    this.set({ selected: id, chosen });
  }

  chosenMarks(): Mark[] {
    return this.state.marks.filter((m) => this.state.chosen.has(m.id));
  }

  /** Begins to time a stretch a second time, puts down its marks, or ends it. */
  timeAgain(again: Again | null): void {
    this.set({ again });
  }

  /** Resolves when everything is saved. */
  saved(): Promise<void> {
    if (this.tasks.length === 0) return Promise.resolve();
    return new Promise((done) => {
      const stop = this.subscribe(() => {
        if (this.tasks.length > 0) return;
        stop();
        done();
      });
    });
  }

  selectedMark(): Mark | null {
    return this.state.marks.find((m) => m.id === this.state.selected) ?? null;
  }

  /** Makes changes as one edit. */
  change(changes: Change[], tags: TagEdit[] = []): void {
    const { mirrored } = this.state.desk.settings;
    const edit = { edit_id: name(), mirrored, changes, tags };
    this.tasks.push({ kind: "edit", edit });
    this.set({
      marks: applied(this.state.marks, changes),
      tags: tags.length > 0 ? applied(this.state.tags, tags, inOrder) : this.state.tags,
    });
    this.keep();
    void this.work();
  }

  /** Changes what is said of the clip, as an edit of its own. */
  changeSettings(change: Partial<Settings>): void {
    const settings = { ...this.state.desk.settings, ...change };
    this.tasks.push({ kind: "settings", body: { edit_id: name(), settings } });
    this.set({ desk: { ...this.state.desk, settings } });
    void this.work();
  }

  /** Says how metres are found in the clip, as an edit of its own. */
  calibrate(calibration: Schemas["Calibration"]): void {
    this.tasks.push({ kind: "calibration", edit_id: name(), calibration });
    this.set({});
    void this.work();
  }

  /** What was said of the scale and is not confirmed yet. */
  pendingCalibration(): Schemas["Calibration"] | null {
    const last = this.tasks.findLast((t) => t.kind === "calibration");
    return last ? last.calibration : null;
  }

  undo(): void {
    this.tasks.push({ kind: "undo" });
    void this.work();
  }

  redo(): void {
    this.tasks.push({ kind: "redo" });
    void this.work();
  }

  /** Reads the figures anew: something outside the clip has changed them. */
  async refresh(): Promise<void> {
    await this.saved();
    await this.reload(null);
  }

  dismiss(): void {
    this.set({ message: null });
  }

  private async work(): Promise<void> {
    if (this.busy) return;
    this.busy = true;
    while (!this.closed) {
      const task = this.tasks[0];
      if (!task) break;
      try {
        const before = this.state.desk.revision;
        const desk = await this.send(task);
        this.tasks.shift();
        this.answered(desk);
        // Someone else's edits lie between: their marks are not in this answer.
        if (!desk.marks && desk.revision > before + 1) await this.reload(null);
      } catch (error) {
        if (mayPass(error)) {
          this.set({ trouble: inWords(error) });
          await new Promise((done) => setTimeout(done, AGAIN_MS));
        } else {
          this.tasks.shift();
          await this.reload(inWords(error));
        }
      }
      this.keep();
    }
    this.busy = false;
  }

  private send(task: Task): Promise<Desk> {
    const params = { path: { clip: this.clip } };
    if (task.kind === "edit") {
      return taken(api.POST("/api/clips/{clip}/edits", { params, body: task.edit }));
    }
    if (task.kind === "settings") {
      return taken(api.PUT("/api/clips/{clip}/settings", { params, body: task.body }));
    }
    if (task.kind === "calibration") {
      const { edit_id, calibration } = task;
      const body = { edit_id, calibration, revision: this.state.desk.revision };
      return taken(api.PUT("/api/clips/{clip}/calibration", { params, body }));
    }
    const body = { revision: this.state.desk.revision };
    return task.kind === "undo"
      ? taken(api.POST("/api/clips/{clip}/undo", { params, body }))
      : taken(api.POST("/api/clips/{clip}/redo", { params, body }));
  }

  private answered(desk: Desk): void {
    const marks = desk.marks ? this.withPending(desk.marks) : this.state.marks;
    const tags = this.withPendingTags(desk.tags);
    this.set({ desk: this.withPendingSettings(desk), marks, tags, trouble: null });
  }

  /** Takes in what was changed in another window, or by someone else. */
  async look(): Promise<void> {
    if (this.tasks.length > 0 || this.closed) return;
    const params = { path: { clip: this.clip } };
    try {
      const { revision } = await taken(api.GET("/api/clips/{clip}/revision", { params }));
      if (revision <= this.state.desk.revision || this.tasks.length > 0) return;
      const desk = await taken(api.GET("/api/clips/{clip}/desk", { params }));
      if (this.tasks.length > 0 || desk.revision <= this.state.desk.revision) return;
      const marks = sorted(desk.marks ?? []);
      const message = changedElsewhere(this.state.marks, marks);
      this.set({ desk, marks, tags: desk.tags, message: message ?? this.state.message });
    } catch {
      // The next edit says when the server is away.
    }
  }

  /** After a refusal: what the server has, and what is still to be sent on top of it. */
  private async reload(message: string | null): Promise<void> {
    try {
      const desk = await taken(
        api.GET("/api/clips/{clip}/desk", { params: { path: { clip: this.clip } } }),
      );
      const marks = this.withPending(desk.marks ?? []);
      const told = message ?? changedElsewhere(this.state.marks, marks);
      this.set({
        desk: this.withPendingSettings(desk),
        marks,
        tags: this.withPendingTags(desk.tags),
        message: told ?? this.state.message,
      });
    } catch (error) {
      this.set({ message: `${message ?? "The figures are not read anew:"} (${inWords(error)})` });
    }
  }

  private withPendingSettings(desk: Desk): Desk {
    const last = this.tasks.findLast((t) => t.kind === "settings");
    return last ? { ...desk, settings: last.body.settings } : desk;
  }

  private withPending(marks: readonly Mark[]): readonly Mark[] {
    return this.tasks.reduce<readonly Mark[]>(
      (now, t) => (t.kind === "edit" ? applied(now, t.edit.changes) : now),
      sorted(marks),
    );
  }

  private withPendingTags(tags: readonly Tag[]): readonly Tag[] {
    return this.tasks.reduce<readonly Tag[]>(
      (now, t) => (t.kind === "edit" ? applied(now, t.edit.tags ?? [], inOrder) : now),
      tags,
    );
  }

  private get drawer(): string {
    return `umlauf.unsaved.${this.clip}`;
  }

  private keptEdits(): Edit[] {
    try {
      return JSON.parse(localStorage.getItem(this.drawer) ?? "[]") as Edit[];
    } catch {
      return [];
    }
  }

  private keep(): void {
    const edits = this.tasks.flatMap((t) => (t.kind === "edit" ? [t.edit] : []));
    try {
      if (edits.length > 0) localStorage.setItem(this.drawer, JSON.stringify(edits));
      else localStorage.removeItem(this.drawer);
    } catch {
      // A browser without storage still saves to the server.
    }
    this.set({ unsaved: edits.length });
  }

  private set(change: Partial<DeskState>): void {
    this.state = { ...this.state, ...change };
    for (const listener of this.listeners) listener();
  }
}

const NONE: ReadonlySet<string> = new Set();

/** What came from elsewhere, in a sentence; nothing when no footfall differs. */
function changedElsewhere(before: readonly Mark[], after: readonly Mark[]): string | null {
  const key = (m: Mark) => `${m.id} ${m.limb} ${m.on_us} ${m.off_us}`;
  const had = new Set(before.map(key));
  const has = new Set(after.map(key));
  const come = after.filter((m) => !had.has(key(m))).length;
  const gone = before.filter((m) => !has.has(key(m))).length;
  if (come + gone === 0) return null;
  const words = come === 1 ? "1 footfall" : `${come} footfalls`;
  return come > 0
    ? `${words} came from another window; nothing of yours was lost.`
    : `${gone === 1 ? "1 footfall was" : `${gone} footfalls were`} removed in another window; Z brings them back.`;
}

/** Whether the same request may succeed later: the server is away, or its disk is full. */
function mayPass(error: unknown): boolean {
  return error instanceof Unreachable || (error instanceof Refused && error.problem.status >= 500);
}

/** A name that no other edit or mark has. */
export function name(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(12));
  return Array.from(bytes, (b) => b.toString(16).padStart(2, "0")).join("");
}
