import { api, inWords, type Schemas, taken } from "../api/client";
import { ownPerson, ownYard } from "../api/own-yard";
import { applied, changedElsewhere, inOrder, sorted } from "./marks";
import { name } from "./names";
import { Observable } from "./observable";
import { Outbox } from "./outbox";
import { settled, type Task } from "./tasks";

export type Mark = Schemas["Mark"];
export type Change = Schemas["MarkChange"];
export type Tag = Schemas["Tag"];
export type TagEdit = Schemas["TagEdit"];
type Desk = Schemas["Desk"];
type Settings = Schemas["ClipSettings"];

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
  /** What was done and the server has not confirmed yet, of whatever kind. */
  readonly unsaved: number;
  /** How many of those the server could not take. */
  readonly aside: number;
  /** Why they cannot be saved at the moment. */
  readonly trouble: string | null;
  /** Something the coach should know once. */
  readonly message: string | null;
};

export type Again = { from: number; to: number; marks: readonly Mark[] };

/** The marks of one clip as the page shows them: changed at once, saved one after the other. */
export class DeskStore extends Observable<DeskState> {
  private readonly clip: number;
  private readonly outbox: Outbox;
  private closed = false;

  constructor(clip: number, desk: Desk) {
    super({
      marks: desk.marks ?? [],
      tags: desk.tags,
      desk,
      selected: null,
      chosen: NONE,
      again: null,
      unsaved: 0,
      aside: 0,
      trouble: null,
      message: null,
    });
    this.clip = clip;
    this.outbox = new Outbox(drawerOf(clip), {
      send: (task) => this.send(task),
      refused: (_, why) => this.reload(why),
    });
    this.state = { ...this.state, ...this.shown(desk), ...this.counted() };
    this.outbox.subscribe(() => this.set(this.counted()));
  }

  /** Begins to send what is kept; gives what stops it. */
  open(): () => void {
    this.closed = false;
    this.outbox.open();
    return () => {
      this.closed = true;
      this.outbox.close();
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
    return this.outbox.sent();
  }

  selectedMark(): Mark | null {
    return this.state.marks.find((m) => m.id === this.state.selected) ?? null;
  }

  /** Makes changes as one edit. */
  change(changes: Change[], tags: TagEdit[] = []): void {
    const { mirrored } = this.state.desk.settings;
    const id = name();
    this.set({
      marks: applied(this.state.marks, changes),
      tags: tags.length > 0 ? applied(this.state.tags, tags, inOrder) : this.state.tags,
    });
    this.outbox.add({ id, kind: "edit", edit: { edit_id: id, mirrored, changes, tags } });
  }

  /** Changes what is said of the clip, as an edit of its own. */
  changeSettings(change: Partial<Settings>): void {
    const before = this.state.desk.settings;
    const after = { ...before, ...change };
    this.set({ desk: { ...this.state.desk, settings: after } });
    this.outbox.add({ id: name(), kind: "settings", before, after });
  }

  /** Says how metres are found in the clip, as an edit of its own. */
  calibrate(calibration: Schemas["Calibration"]): void {
    this.outbox.add({ id: name(), kind: "calibration", calibration });
  }

  /** What was said of the scale and is not confirmed yet. */
  pendingCalibration(): Schemas["Calibration"] | null {
    const last = this.outbox.tasks.findLast((t) => t.kind === "calibration");
    return last ? last.calibration : null;
  }

  undo(): void {
    this.outbox.add({ id: name(), kind: "undo" });
  }

  redo(): void {
    this.outbox.add({ id: name(), kind: "redo" });
  }

  /** Offers again what the server could not take. */
  sendAgain(): void {
    this.outbox.again();
  }

  /** Gives up what the server could not take: the clip is as the server has it. */
  async letGo(): Promise<void> {
    this.outbox.letGo();
    await this.reload(null);
  }

  /** Reads the figures anew: something outside the clip has changed them. */
  async refresh(): Promise<void> {
    await this.saved();
    await this.reload(null);
  }

  dismiss(): void {
    this.set({ message: null });
  }

  private async send(task: Task): Promise<void> {
    const before = this.state.desk.revision;
    const desk = await this.sent(task);
    this.set({ ...this.shown(desk, task) });
    // Someone else's edits lie between: their marks are not in this answer.
    if (!desk.marks && desk.revision > before + 1) await this.reload(null, task);
  }

  private sent(task: Task): Promise<Desk> {
    const params = { path: { clip: this.clip } };
    if (task.kind === "edit") {
      return taken(api.POST("/api/clips/{clip}/edits", { params, body: task.edit }));
    }
    if (task.kind === "settings") {
      const body = { edit_id: task.id, before: task.before, after: task.after };
      return taken(api.PUT("/api/clips/{clip}/settings", { params, body }));
    }
    if (task.kind === "calibration") {
      const { calibration } = task;
      const body = { edit_id: task.id, calibration, revision: this.state.desk.revision };
      return taken(api.PUT("/api/clips/{clip}/calibration", { params, body }));
    }
    const revision = task.revision ?? this.state.desk.revision;
    if (task.revision === undefined) this.outbox.replace({ ...task, revision });
    const body = { revision };
    return task.kind === "undo"
      ? taken(api.POST("/api/clips/{clip}/undo", { params, body }))
      : taken(api.POST("/api/clips/{clip}/redo", { params, body }));
  }

  /** Takes in what was changed in another window, or by someone else. */
  async look(): Promise<void> {
    if (this.outbox.tasks.length > 0 || this.closed) return;
    const params = { path: { clip: this.clip } };
    try {
      const { revision } = await taken(api.GET("/api/clips/{clip}/revision", { params }));
      if (revision <= this.state.desk.revision || this.outbox.tasks.length > 0) return;
      const desk = await taken(api.GET("/api/clips/{clip}/desk", { params }));
      if (this.outbox.tasks.length > 0 || desk.revision <= this.state.desk.revision) return;
      const marks = sorted(desk.marks ?? []);
      const message = changedElsewhere(this.state.marks, marks);
      this.set({ desk, marks, tags: desk.tags, message: message ?? this.state.message });
    } catch {
      // The next edit says when the server is away.
    }
  }

  /** After a refusal: what the server has, and what is still to be sent on top of it. */
  private async reload(message: string | null, done?: Task): Promise<void> {
    try {
      const desk = await taken(
        api.GET("/api/clips/{clip}/desk", { params: { path: { clip: this.clip } } }),
      );
      const next = this.shown(desk, done);
      const told = message ?? changedElsewhere(this.state.marks, next.marks);
      this.set({ ...next, message: told ?? this.state.message });
    } catch (error) {
      this.set({ message: `${message ?? "The figures are not read anew:"} (${inWords(error)})` });
    }
  }

  /** What the server has with what it has not confirmed on top; `done` is in it already. */
  private shown(desk: Desk, done?: Task): Pick<DeskState, "desk" | "marks" | "tags"> {
    let marks = desk.marks ? sorted(desk.marks) : this.state.marks;
    let tags: readonly Tag[] = desk.tags;
    let { settings } = desk;
    for (const task of this.outbox.tasks) {
      if (task.id === done?.id) continue;
      if (task.kind === "edit") {
        marks = desk.marks ? applied(marks, task.edit.changes) : marks;
        tags = applied(tags, task.edit.tags ?? [], inOrder);
      }
      if (task.kind === "settings") settings = settled(settings, task.before, task.after);
    }
    return { desk: { ...desk, settings }, marks, tags };
  }

  private counted(): Pick<DeskState, "unsaved" | "aside" | "trouble"> {
    const { waiting, aside, trouble } = this.outbox.snapshot();
    return { unsaved: waiting.length + aside.length, aside: aside.length, trouble };
  }

  private set(change: Partial<DeskState>): void {
    this.put({ ...this.state, ...change });
  }
}

const NONE: ReadonlySet<string> = new Set();

/** Where the browser keeps what is not saved of a clip of this yard; once it was kept without its yard. */
function drawerOf(clip: number): string {
  const yard = ownYard();
  const former = `umlauf.unsaved.${clip}`;
  if (yard === null) return former;
  // At the machine itself, and before there were others, it is the coach's.
  const person = ownPerson();
  const whose = person === "" || person === "coach" ? "" : `.${encodeURIComponent(person)}`;
  const drawer = `umlauf.unsaved.${yard}.${clip}${whose}`;
  try {
    const kept = localStorage.getItem(former);
    if (whose === "" && kept !== null && localStorage.getItem(drawer) === null) {
      localStorage.setItem(drawer, kept);
      localStorage.removeItem(former);
    }
  } catch {
    // A browser without storage still saves to the server.
  }
  return drawer;
}
