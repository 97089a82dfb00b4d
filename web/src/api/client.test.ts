import { describe, expect, it } from "vitest";

import { asProblem, done, inWords, Refused, taken, Unreachable } from "./client";

const ok = new Response(null, { status: 200 });
const problem = {
  code: "not-found",
  title: "Not found",
  status: 404,
  detail: "There is no clip 7.",
};

describe("answers of the server", () => {
  it("gives what came, also where it is nothing much", async () => {
    expect(await taken(Promise.resolve({ data: [], response: ok }))).toEqual([]);
    expect(await taken(Promise.resolve({ data: 0, response: ok }))).toBe(0);
    expect(await taken(Promise.resolve({ data: null, response: ok }))).toBeNull();
    await expect(done(Promise.resolve({ response: ok }))).resolves.toBeUndefined();
  });

  it("refuses in the server's own words", async () => {
    const answer = { error: problem, response: new Response(null, { status: 404 }) };
    const refused = await taken(Promise.resolve(answer)).catch((e: unknown) => e);
    expect(refused).toBeInstanceOf(Refused);
    expect((refused as Refused).problem).toBe(problem);
    expect(inWords(refused)).toBe("There is no clip 7.");
    const gone = await done(Promise.resolve(answer)).catch((e: unknown) => e);
    expect(inWords(gone)).toBe("There is no clip 7.");
  });

  it("tells a server that is away from one that refuses", async () => {
    for (const ask of [taken, done]) {
      const away = await ask(Promise.reject(new TypeError("fetch failed"))).catch(
        (e: unknown) => e,
      );
      expect(away).toBeInstanceOf(Unreachable);
      expect(inWords(away)).toContain("still running");
    }
  });

  it("says so when what came is no answer of ours", () => {
    const proxy = new Response("<html>", { status: 502, statusText: "Bad Gateway" });
    for (const error of ["<html>", null, undefined, { message: "no" }]) {
      expect(asProblem(error, proxy)).toMatchObject({ code: "unknown", status: 502 });
    }
    expect(asProblem(problem, proxy)).toBe(problem);
    expect(inWords("thrown text")).toBe("Something went wrong.");
  });
});
