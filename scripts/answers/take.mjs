#!/usr/bin/env node
// Writes down what a build of the program answers: forty rides through `analyse`, and the demo yard's
// pages, records, comparisons and reports over HTTP. Two builds' answers are compared with `diff -r`.
//
//   node scripts/answers/take.mjs target/release/umlauf /tmp/before

import { spawn, spawnSync } from "node:child_process";
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { rides } from "./rides.mjs";

const [program, into] = process.argv.slice(2);
if (!program || !into) {
  console.error("usage: take.mjs PROGRAM FOLDER");
  process.exit(2);
}
rmSync(into, { recursive: true, force: true });
mkdirSync(into, { recursive: true });

const all = rides();
if (all.length < 40) throw new Error(`only ${all.length} rides`);
for (const ride of all) {
  const base = join(into, ride.name);
  writeFileSync(`${base}.footfalls.csv`, ride.footfalls());
  writeFileSync(`${base}.marks.csv`, ride.coach());
  for (const form of [["--json"], []]) {
    const options = ["analyse", `${base}.footfalls.csv`, "--marks", `${base}.marks.csv`, ...ride.options];
    const run = spawnSync(program, [...options, ...form], { encoding: "utf8", maxBuffer: 1 << 28 });
    writeFileSync(`${base}.${form.length ? "json" : "txt"}`, run.stdout + run.stderr);
  }
}

const data = mkdtempSync(join(tmpdir(), "answers-"));
const server = spawn(program, ["demo", "--port", "0", "--data", data], { stdio: ["ignore", "pipe", "inherit"] });
try {
  const url = await new Promise((resolve, reject) => {
    server.stdout.on("data", (text) => {
      const found = /http:\/\/\S+/.exec(String(text));
      if (found) resolve(found[0].replace(/\/$/, ""));
    });
    server.on("exit", () => reject(new Error("the server ended")));
  });
  let count = 0;
  const keep = async (path) => {
    const response = await fetch(url + path);
    let text = await response.text();
    let json = null;
    if ((response.headers.get("content-type") ?? "").includes("json")) {
      json = JSON.parse(text);
      text = JSON.stringify(json, null, 1);
    } else {
      text = text.replaceAll("><", ">\n<");
    }
    // Content hashes, clock times and what runs by itself differ from run to run.
    text = text.replaceAll(/"(created|taken_in|updated|time_left_s|progress)": [^,\n]*/g, '"$1": "…"');
    writeFileSync(join(into, `http${path.replaceAll(/[^A-Za-z0-9.=-]+/g, "_")}`), `${response.status}\n${text}\n`);
    count += 1;
    return json;
  };
  for (;;) {
    const jobs = await (await fetch(`${url}/api/jobs`)).json();
    if (!JSON.stringify(jobs).match(/"(waiting|running)"/)) break;
    await new Promise((resolve) => setTimeout(resolve, 500));
  }
  const yard = await keep("/api/yard");
  await keep("/api/setup");
  const sessions = new Map();
  for (const horse of yard.horses) {
    const record = await keep(`/api/horses/${horse.id}/record`);
    await keep(`/api/horses/${horse.id}/record.csv`);
    await keep(`/api/reports/horse/${horse.id}/coach`);
    await keep(`/api/reports/horse/${horse.id}/rider`);
    for (const gait of ["walk", "trot", "canter", "flat-walk"]) {
      await keep(`/api/horses/${horse.id}/record?gait=${gait}`);
      for (const rein of ["left", "right"]) {
        await keep(`/api/horses/${horse.id}/record?gait=${gait}&rein=${rein}`);
      }
    }
    sessions.set(horse.id, (horse.sessions ?? record.sessions ?? []).map((s) => s.id ?? s.session));
  }
  for (const [horse, ids] of sessions) {
    for (const id of ids) {
      await keep(`/api/sessions/${id}/glance`);
      await keep(`/api/reports/session/${id}?for=coach`);
    }
    for (const gait of ["walk", "trot", "canter", "flat-walk"]) {
      const [a, b] = [ids[0], ids.at(-1)];
      await keep(`/api/compare?a=session:${a}:${gait}&b=session:${b}:${gait}`);
      await keep(`/api/compare?a=session:${b}:${gait}:left&b=session:${b}:${gait}:right`);
    }
    if (ids.length === 0) console.error(`horse ${horse} has no session`);
  }
  for (let clip = 1; clip <= 110; clip++) {
    await keep(`/api/clips/${clip}/desk`);
    await keep(`/api/clips/${clip}/ground`);
    await keep(`/api/clips/${clip}/footfalls.csv`);
  }
  console.log(`${all.length} rides and ${count} answers over HTTP in ${into}`);
} finally {
  server.kill();
  rmSync(data, { recursive: true, force: true });
}
