import createClient from "openapi-fetch";

import { naming } from "./own-yard";
import type { components, paths } from "./schema";
import { noticing } from "./signed-out";

export type Schemas = components["schemas"];
export type Problem = Schemas["Problem"];

export const api = createClient<paths>();
api.use(naming, noticing);

/** An answer that was refused, in the server's own words. */
export class Refused extends Error {
  readonly problem: Problem;

  constructor(problem: Problem) {
    super(problem.detail);
    this.problem = problem;
  }
}

/** The server did not answer at all. */
export class Unreachable extends Error {
  constructor() {
    super("Umlauf does not answer; is it still running?");
  }
}

/** The data of an answer; throws {@link Refused} or {@link Unreachable}. */
export async function taken<T>(
  request: Promise<{ data?: T; error?: unknown; response: Response }>,
): Promise<T> {
  let answer;
  try {
    answer = await request;
  } catch {
    throw new Unreachable();
  }
  if (answer.error !== undefined || answer.data === undefined) {
    throw new Refused(asProblem(answer.error, answer.response));
  }
  return answer.data;
}

/** Waits for an answer without data; throws as {@link taken} does. */
export async function done(request: Promise<{ error?: unknown; response: Response }>) {
  let answer;
  try {
    answer = await request;
  } catch {
    throw new Unreachable();
  }
  if (!answer.response.ok) throw new Refused(asProblem(answer.error, answer.response));
}

export function asProblem(error: unknown, response: Response): Problem {
  if (typeof error === "object" && error !== null && "detail" in error && "code" in error) {
    return error as Problem;
  }
  return {
    code: "unknown",
    title: response.statusText,
    status: response.status,
    detail: `Umlauf answered ${response.status} without a reason.`,
  };
}

/** Any error as a sentence. */
export function inWords(error: unknown): string {
  return error instanceof Error ? error.message : "Something went wrong.";
}
