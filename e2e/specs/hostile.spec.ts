import { readFile } from "node:fs/promises";
import { join } from "node:path";

import { expect, test } from "@playwright/test";

/** What runs in the page's name leaves its mark on it. */
const RUN = "window.top.ran=(window.top.ran||0)+1";

test("a film that is a page and a script as well runs nowhere", async ({ page }) => {
  // In front of the film stands a box that players skip: as text the file is a page, and a script.
  const said = `/*<script>${RUN}</script>*/${RUN}//`;
  const box = Buffer.concat([Buffer.alloc(4), Buffer.from(`free${said}`)]);
  box.writeUInt32BE(box.length);
  const film = await readFile(join(import.meta.dirname, "../../demo/distel-trot.mp4"));
  const bytes = Buffer.concat([box, film]);
  const api = async (method: string, path: string, data?: unknown) => {
    const answer = await page.request.fetch(`/api/${path}`, { method, data });
    expect(answer.ok(), await answer.text()).toBe(true);
    return answer;
  };
  await page.goto("/");
  const id = "twokinds0001";
  await api("POST", "uploads", { id, session: null, name: "ride.html", bytes: bytes.length });
  await api("PUT", `uploads/${id}?from=0`, bytes);
  const { id: clip } = (await (await api("POST", `uploads/${id}/finish`)).json()) as { id: number };
  // What is no MP4 by its name is shown once its copy for stepping is there; its own bytes lie beside that.
  let media = "";
  await expect(async () => {
    const shown: unknown = await (await api("GET", `clips/${String(clip)}`)).json();
    media = (shown as { media: string | null }).media?.replace(/[^/]*$/, "original") ?? "";
    expect(media).not.toBe("");
  }).toPass({ timeout: 120_000 });
  expect(media).toMatch(/^\/media\/[0-9a-f]{64}\/original$/);

  // By itself it is kept as a file, not shown as a page.
  const download = page.waitForEvent("download");
  await page.goto(media).catch(() => null);
  await (await download).cancel();

  // On a page of the yard it is neither a script, nor a frame, nor what works behind the page.
  await page.goto("/");
  const tried = await page.evaluate(async (address) => {
    const told = (element: HTMLElement) =>
      new Promise<string>((done) => {
        element.onload = () => {
          done("loaded");
        };
        element.onerror = () => {
          done("refused");
        };
        setTimeout(() => {
          done("nothing");
        }, 2000);
        document.body.append(element);
      });
    const script = document.createElement("script");
    script.src = address;
    const moduleScript = document.createElement("script");
    moduleScript.type = "module";
    moduleScript.src = address;
    const frame = document.createElement("iframe");
    frame.src = address;
    const scripts = [await told(script), await told(moduleScript)];
    await told(frame);
    const worker = await new Promise<string>((done) => {
      try {
        const made = new Worker(address);
        made.onerror = () => {
          done("refused");
        };
        made.onmessage = () => {
          done("ran");
        };
        setTimeout(() => {
          done("nothing");
        }, 2000);
      } catch {
        done("refused");
      }
    });
    const behind = await navigator.serviceWorker.register(address).then(
      () => "registered",
      () => "refused",
    );
    return { scripts, worker, behind, ran: (window as { ran?: number }).ran ?? 0 };
  }, media);
  expect(tried).toMatchObject({ scripts: ["refused", "refused"], behind: "refused", ran: 0 });
  expect(["refused", "nothing"]).toContain(tried.worker);

  // As a film it plays.
  const length = await page.evaluate(
    (address) =>
      new Promise<number>((done, fail) => {
        const film = document.createElement("video");
        film.onloadedmetadata = () => {
          done(film.duration);
        };
        film.onerror = () => {
          fail(new Error("it does not play"));
        };
        film.src = address;
        document.body.append(film);
      }),
    media,
  );
  expect(length).toBeGreaterThan(1);
  await api("DELETE", `clips/${String(clip)}`);
});
