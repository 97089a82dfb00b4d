import { describe, expect, it } from "vitest";

import type { Schemas } from "../api/client";
import { readKept, settled } from "./tasks";

type Settings = Schemas["ClipSettings"];

const settings = (change: object) =>
  ({ slow_factor: 1, mirrored: false, rein: null, note: "", ...change }) as Settings;

describe("settings changed here and elsewhere", () => {
  it("takes what was changed here and leaves what was changed elsewhere", () => {
    const before = settings({});
    const here = settings({ rein: "left" });
    const server = settings({ note: "from the other window", slow_factor: 4 });
    expect(settled(server, before, here)).toEqual(
      settings({ rein: "left", note: "from the other window", slow_factor: 4 }),
    );
  });

  it("takes back to nothing what was taken back, and does not mind how nothing is written", () => {
    const before = settings({ rein: "left", note: undefined });
    const after = settings({ rein: null, note: null });
    const server = settings({ rein: "left", note: "kept" });
    expect(settled(server, before, after)).toEqual(settings({ rein: null, note: "kept" }));
  });

  it("changes nothing where nothing was changed", () => {
    const server = settings({ rein: "right" });
    expect(settled(server, settings({}), settings({}))).toEqual(server);
  });
});

describe("what the browser has kept", () => {
  it("is nothing when there is none, or none that can be read", () => {
    for (const text of [null, "", "null", "{", "7", '"text"', "{}"]) {
      expect(readKept(text)).toEqual({ waiting: [], aside: [] });
    }
  });

  it("is read as it was written", () => {
    const kept = {
      waiting: [{ id: "a", kind: "undo", revision: 4 }],
      aside: [{ id: "b", kind: "redo" }],
    };
    expect(readKept(JSON.stringify(kept))).toEqual(kept);
  });

  it("is read when an earlier page wrote it: edits alone, taps by their rate", () => {
    const mark = { id: "m", limb: "LF", on_us: 5, off_us: null };
    const edit = {
      ...{ edit_id: "e", mirrored: false, tags: [] },
      changes: [
        { before: null, after: { ...mark, tap_rate: 0.5 } },
        { before: { ...mark, tap_rate: null }, after: null },
      ],
    };
    const { waiting, aside } = readKept(JSON.stringify([edit]));
    expect(aside).toEqual([]);
    expect(waiting).toMatchObject([
      {
        kind: "edit",
        edit: {
          edit_id: "e",
          changes: [
            { before: null, after: { ...mark, origin: { how: "tapped", rate: 0.5 } } },
            { before: mark, after: null },
          ],
        },
      },
    ]);
    expect(JSON.stringify(waiting)).not.toContain("tap_rate");
  });
});
