// Forty rides of all gaits as footfalls tables, from fixed seeds: what two versions of the program
// are asked, so that their answers can be laid side by side.

const LIMBS = ["LF", "RF", "LH", "RH"];

// Stride duration (s), stride length (m), phases of LF RF LH RH, duty factor.
const GAITS = {
  walk: [1.08, 1.87, [0.24, 0.74, 0, 0.5], 0.63],
  "walk-lateral": [1.1, 1.7, [0.16, 0.66, 0, 0.5], 0.62],
  "walk-diagonal": [1.05, 1.75, [0.33, 0.83, 0, 0.5], 0.62],
  trot: [0.756, 2.73, [0.51, 0.01, 0, 0.5], 0.42],
  "trot-collected": [0.781, 2.5, [0.52, 0.02, 0, 0.5], 0.45],
  "trot-extended": [0.72, 3.55, [0.51, 0.01, 0, 0.5], 0.38],
  passage: [1.09, 1.75, [0.53, 0.03, 0, 0.5], 0.45],
  piaffe: [1.08, 0.1, [0.54, 0.04, 0, 0.5], 0.53],
  canter: [0.6, 3.0, [0.48, 0.26, 0.25, 0], 0.4],
  "canter-collected": [0.612, 2.0, [0.53, 0.31, 0.27, 0], 0.44],
  "canter-four": [0.66, 2.1, [0.6, 0.38, 0.27, 0], 0.47],
  "canter-extended": [0.581, 3.47, [0.45, 0.23, 0.23, 0], 0.36],
  gallop: [0.48, 5.2, [0.54, 0.36, 0.16, 0], 0.27],
  "flat-walk": [0.98, 1.9, [0.22, 0.72, 0, 0.5], 0.6],
  "running-walk": [0.78, 2.1, [0.22, 0.72, 0, 0.5], 0.55],
  "stepping-pace": [0.8, 2.2, [0.14, 0.64, 0, 0.5], 0.52],
  rack: [0.56, 2.6, [0.25, 0.75, 0, 0.5], 0.44],
  pace: [0.7, 2.9, [0.02, 0.52, 0, 0.5], 0.42],
};

function random(seed) {
  let state = (seed * 2654435761 + 12345) >>> 0;
  const uniform = () => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return (state + 0.5) / 4294967296;
  };
  const normal = () =>
    Math.sqrt(-2 * Math.log(uniform())) * Math.cos(2 * Math.PI * uniform());
  return { uniform, normal };
}

const other = (limb) => (limb[0] === "L" ? "R" : "L") + limb[1];

class Ride {
  constructor(name, seed, { rate = 120, jitter = 0.003, spread = 0.02 } = {}) {
    Object.assign(this, { name, rate, jitter, spread });
    this.random = random(seed);
    this.rows = [];
    this.marks = [];
    this.options = ["--frame-rate", String(rate)];
    this.now = 0.4;
    this.along = 0;
  }

  /** Strides of a gait; `leads` swaps the limbs of hinds and fores (canters are on the left). */
  go(gait, strides, { leads = () => ["left", "left"], places = true, slower = 1, back = 1 } = {}) {
    const [t0, length, phases, duty] = GAITS[gait];
    for (let k = 0; k < strides; k++) {
      const t = t0 * slower * (1 + this.spread * this.random.normal());
      const [hind, fore] = leads(k);
      LIMBS.forEach((own, i) => {
        const lead = own[1] === "H" ? hind : fore;
        const limb = lead === "right" ? other(own) : own;
        const on = this.now + phases[i] * t;
        const x = limb[0] === "L" ? 1.9 : 2.1;
        const y = 5 + this.along + back * length * phases[i] + (limb[1] === "F" ? 1.15 : 0);
        this.rows.push([limb, on, on + duty * t, places ? x : null, places ? y : null]);
      });
      this.now += t;
      this.along += back * length;
    }
    return this;
  }

  stand(seconds) {
    const until = this.now + seconds;
    for (const limb of LIMBS) {
      const last = this.rows.filter((r) => r[0] === limb).at(-1);
      last[2] = until + (limb === "LH" ? 0 : 0.06);
    }
    this.now = until + 0.1;
    return this;
  }

  mark(kind, detail = "", shift = 0) {
    this.marks.push([this.now + shift, kind, detail]);
    return this;
  }

  with(...options) {
    this.options.push(...options);
    return this;
  }

  /** What a hand makes of it: some marks missing, one given to another limb. */
  hard() {
    this.rows = this.rows.filter(() => this.random.uniform() > 0.05);
    const k = Math.floor(this.random.uniform() * this.rows.length);
    this.rows[k] = [other(this.rows[k][0]), ...this.rows[k].slice(1)];
    return this;
  }

  footfalls() {
    const frame = (t) => Math.ceil((t + this.jitter * this.random.normal()) * this.rate) / this.rate;
    const cell = (v) => (v === null ? "" : v.toFixed(6));
    const lines = this.rows.map(([limb, on, off, x, y]) => {
      const at = frame(on);
      return [limb, cell(at), cell(Math.max(at, frame(off))), cell(x), cell(y)].join(",");
    });
    return `limb,on_s,off_s,x_m,y_m\n${lines.join("\n")}\n`;
  }

  coach() {
    const sorted = [...this.marks].sort((a, b) => a[0] - b[0]);
    return `time_s,kind,detail\n${sorted.map(([t, k, d]) => `${t.toFixed(3)},${k},${d}\n`).join("")}`;
  }
}

const right = () => ["right", "right"];
const gaited = new Set(["flat-walk", "running-walk", "stepping-pace", "rack", "pace"]);

/** The forty rides. */
export function rides() {
  const out = [];
  Object.keys(GAITS).forEach((gait, k) => {
    const ride = new Ride(`plain-${gait}`, k + 1).with("--withers", "1.64").go(gait, 14);
    out.push(gaited.has(gait) ? ride.with("--gaited") : ride.with("--rein", "left"));
  });
  for (const [k, gait] of ["walk", "trot", "canter", "flat-walk", "canter-four", "rack"].entries()) {
    out.push(new Ride(`hard-${gait}`, 40 + k, { rate: 60, jitter: 0.006 }).go(gait, 24, { places: false }).hard());
  }
  const ride = (name, seed, options) => {
    const made = new Ride(name, seed, options);
    out.push(made);
    return made;
  };
  ride("change-clean", 60).mark("aid", "change", 5.7).go("canter", 20, { leads: (k) => (k < 10 ? ["left", "left"] : ["right", "right"]) });
  ride("change-late-behind", 61).go("canter", 20, {
    leads: (k) => [k < 11 ? "left" : "right", k < 10 ? "left" : "right"],
  });
  ride("change-late-in-front", 62).go("canter", 20, {
    leads: (k) => [k < 10 ? "left" : "right", k < 12 ? "left" : "right"],
  });
  ride("tempi-4x5", 63)
    .mark("start", "tempi-4x5", -0.1)
    .go("canter", 30, { leads: (k) => (Math.floor((k + 2) / 4) % 2 ? ["right", "right"] : ["left", "left"]) })
    .mark("end", "tempi-4x5");
  ride("one-tempi", 64).go("canter", 18, { leads: (k) => (k < 4 || k % 2 ? ["left", "left"] : ["right", "right"]) });
  ride("disunited", 65).with("--rein", "left").go("canter", 6).go("canter", 7, { leads: () => ["left", "right"] }).go("canter", 6);
  ride("wrong-lead", 66).with("--rein", "left", "--asked-lead", "left").go("trot", 6).mark("aid", "canter-left", -0.9).go("canter", 10, { leads: right });
  ride("counter-canter", 67).with("--rein", "left").mark("aid", "canter-right", -0.2).go("canter", 10, { leads: right }).go("trot", 8);
  ride("transitions", 68, { rate: 60 })
    .go("walk", 8).mark("aid", "trot", -0.5).go("trot", 10).mark("aid", "canter-left", -0.4)
    .go("canter", 12).mark("aid", "trot", -0.6).go("trot", 9).mark("aid", "walk", -0.8).go("walk", 8);
  ride("halt", 69).go("trot", 8).mark("aid", "halt", -0.5).go("walk", 2).stand(4.2).mark("aid", "walk", -0.3).go("walk", 8);
  ride("simple-change", 70).go("canter", 8).go("walk", 2).go("canter", 8, { leads: right });
  ride("through-trot", 71).go("canter", 8).go("trot", 3).go("canter", 8, { leads: right });
  ride("shoulder-in", 72)
    .go("trot", 12).mark("start", "shoulder-in left").go("trot", 12, { slower: 1.06 }).mark("end", "shoulder-in left")
    .go("trot", 12).mark("start", "shoulder-in right").go("trot", 12).mark("end", "shoulder-in right").go("trot", 6);
  ride("drill-2x2", 73).mark("start", "drill-2x2", -0.1).go("trot", 2).go("walk", 2).go("trot", 2).go("walk", 3).go("trot", 2).go("walk", 2).mark("end", "drill-2x2");
  ride("forward-back", 74).mark("start", "forward-back", -0.1).go("canter-collected", 8).go("canter-extended", 8).go("canter-collected", 8).mark("end", "forward-back");
  ride("pirouette-half", 75)
    .with("--degree", "3", "--school", "collecting-tempo=slower")
    .go("canter-collected", 10).mark("start", "pirouette-half left", -0.05).go("canter-four", 4, { slower: 1.15 }).mark("end", "pirouette-half left", -0.05).go("canter-collected", 8);
  const posting = ride("posting", 76).mark("letter", "K").go("trot", 20).mark("letter", "E");
  for (let k = 0; k < 18; k++) posting.mark("aid", "sit", -0.756 * (k + 0.7));
  for (let k = 0; k < 6; k++) posting.mark("aid", "leg-LH", -0.756 * (k + 0.62)).mark("aid", "half-halt", -0.756 * (k + 0.3));
  return out;
}
