import { api, asProblem, Refused, taken, Unreachable } from "../api/client";
import { ownYardHeader } from "../api/own-yard";

const PIECE = 32 * 1024 * 1024;
/** Waits between tries when the server does not answer, ms: some two minutes in all. */
const WAITS = [500, 1000, 2000, 4000, 8000, 15000, 30000, 60000];

/** Sends a file in pieces, goes on where it broke off, and gives the number of the new clip. */
export async function sendFile(
  session: number | null,
  file: File,
  stop: AbortSignal,
  onSent: (bytes: number) => void,
): Promise<number> {
  const id = await nameOf(session, file);
  const begin = () =>
    taken(
      api.POST("/api/uploads", {
        body: { id, session, name: file.name, bytes: file.size },
        signal: stop,
      }),
    );
  let { received } = await begin();
  let tries = 0;
  while (received < file.size) {
    onSent(received);
    try {
      received = await sendPiece(id, file, received, stop, onSent);
      tries = 0;
    } catch (error) {
      if (stop.aborted) break;
      const temporary =
        error instanceof Unreachable ||
        (error instanceof Refused && ["wrong-place", "broken-off"].includes(error.problem.code));
      const wait = WAITS[tries++];
      if (!temporary || wait === undefined) throw error;
      await new Promise((done) => setTimeout(done, wait));
      received = (await begin().catch(() => ({ received }))).received;
    }
  }
  if (stop.aborted) {
    await api.DELETE("/api/uploads/{upload}", { params: { path: { upload: id } } });
    throw new Error("cancelled");
  }
  onSent(received);
  const clip = await taken(
    api.POST("/api/uploads/{upload}/finish", { params: { path: { upload: id } } }),
  );
  return clip.id;
}

/** The same file for the same session has the same name, so that it goes on where it broke off
 * even after the page was closed. */
async function nameOf(session: number | null, file: File): Promise<string> {
  const text = `${session}|${file.name}|${file.size}|${file.lastModified}`;
  // Plain http over a network has no crypto.subtle: a simple hash is enough for a name.
  let [a, b] = [0x811c9dc5, 0x1000193];
  for (const c of text) {
    a = Math.imul(a ^ (c.codePointAt(0) ?? 0), 0x01000193);
    b = Math.imul(b + (c.codePointAt(0) ?? 0), 0x85ebca6b) ^ (b >>> 13);
  }
  return `f${(a >>> 0).toString(16).padStart(8, "0")}${(b >>> 0).toString(16).padStart(8, "0")}`;
}

function sendPiece(
  id: string,
  file: File,
  from: number,
  stop: AbortSignal,
  onSent: (bytes: number) => void,
): Promise<number> {
  // XMLHttpRequest: fetch cannot tell how much of a body has gone out.
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest();
    request.open("PUT", `/api/uploads/${id}?from=${from}`);
    request.setRequestHeader("Content-Type", "application/octet-stream");
    for (const [header, value] of Object.entries(ownYardHeader())) {
      request.setRequestHeader(header, value);
    }
    request.responseType = "json";
    request.upload.onprogress = (e) => onSent(from + e.loaded);
    request.onload = () => {
      if (request.status === 200) {
        resolve((request.response as { received: number }).received);
      } else {
        const response = new Response(null, { status: request.status });
        reject(new Refused(asProblem(request.response, response)));
      }
    };
    request.onerror = () => reject(new Unreachable());
    request.onabort = () => reject(new Error("cancelled"));
    stop.addEventListener("abort", () => request.abort(), { once: true });
    request.send(file.slice(from, from + PIECE));
  });
}
