// Hits heard by the phone: samples in, moments out. The twin of core/hall/hearing.py, which says why, and is held against
// this one on the same samples. Nothing here knows a page, a microphone or a clock; nothing is kept but moments.
const HOP_S = 0.005;
const BANDS = [[350, 1000], [1000, 3000], [3000, 7000]];
export const LEAST_RATE = 15_000;
const SILENT = 1e-10;
export const TO_LEARN = 3;
const ALIKE = 12;
const SETTLED = 40;
const BEFORE = 4;
const USUAL = 200;
const PEAK = 3;
const FADED = [8, 13];
const FADES = 0.35;
const UNLEARNT = 5;
const SHARE = 0.3;
const OVER_USUAL = 3;
const MASKED = 5;
const MASKED_HOPS = 300;

/** @typedef {number[]} Bands one number each of low, middle, high */
/** @typedef {{ at: number, rises: Bands, heights: Bands }} Hit at: seconds since the first sample */
/** @typedef {{ shares: Bands, rise: number, peaks: Bands }} Learnt */
/** @typedef {{ hop: number, rises: Bands, peaks: Bands, usual: Bands }} Rising */

const less = (values, base) => values.map((value, band) => value - base[band]);
const highest = (one, other) => one.map((value, band) => Math.max(value, other[band]));
const weighed = (shares, values) => shares[0] * values[0] + shares[1] * values[1] + shares[2] * values[2];
const middle = (values) => [...values].sort((a, b) => a - b)[values.length >> 1];

/** The least between two hits, seconds, where there are at most so many a second. */
export const gapOf = (mostASecond) => 0.55 / mostASecond;

// Where a value stands among sorted ones, or would.
const place = (sorted, value) => {
  let [low, high] = [0, sorted.length];
  while (low < high) {
    const half = (low + high) >> 1;
    if (sorted[half] < value) low = half + 1;
    else high = half;
  }
  return low;
};

/** The median of the latest values. */
class Median {
  /** @param {number} size */
  constructor(size) {
    this.size = size;
    this.latest = [];
    this.sorted = [];
  }

  add(value) {
    this.latest.push(value);
    this.sorted.splice(place(this.sorted, value), 0, value);
    if (this.latest.length > this.size) this.sorted.splice(place(this.sorted, this.latest.shift()), 1);
  }

  value(otherwise) { return this.sorted.length ? this.sorted[this.sorted.length >> 1] : otherwise; }
}

// A Butterworth filter of second order.
const biquad = (kind, hertz, rate) => {
  const turn = (2 * Math.PI * hertz) / rate;
  const [alpha, at] = [Math.sin(turn) / Math.SQRT2, Math.cos(turn)];
  const edge = kind === "low" ? 1 - at : 1 + at;
  const whole = 1 + alpha;
  return { b0: edge / 2 / whole, b1: (kind === "low" ? edge : -edge) / whole, a1: (-2 * at) / whole, a2: (1 - alpha) / whole, s: 0, t: 0 };
};

/** Samples in, three mean squares a hop out: twice what is under a band goes, once what is over it. */
class Filters {
  /** @param {number} rate samples a second */
  constructor(rate) {
    this.size = Math.floor(rate * HOP_S + 0.5);
    this.bands = BANDS.map(([low, high]) => [biquad("high", low, rate), biquad("high", low, rate), biquad("low", high, rate)]);
    this.sums = [0, 0, 0];
    this.filled = 0;
  }

  /** @param {Float32Array | number[]} samples @param {(energies: Bands) => void} hop */
  push(samples, hop) {
    for (let from = 0; from < samples.length;) {
      const until = Math.min(samples.length, from + this.size - this.filled);
      for (let band = 0; band < 3; band += 1) this.sums[band] += squares(this.bands[band], samples, from, until);
      this.filled += until - from;
      from = until;
      if (this.filled < this.size) return;
      hop(this.sums.map((sum) => sum / this.size));
      this.sums = [0, 0, 0];
      this.filled = 0;
    }
  }
}

// The sum of squares of what three filters in a row leave (direct form II, transposed).
const squares = (filters, samples, from, until) => {
  const [f, g, h] = filters;
  let sum = 0;
  for (let i = from; i < until; i += 1) {
    const x = samples[i];
    const y = f.b0 * x + f.s;
    f.s = f.b1 * x - f.a1 * y + f.t;
    f.t = f.b0 * x - f.a2 * y;
    const z = g.b0 * y + g.s;
    g.s = g.b1 * y - g.a1 * z + g.t;
    g.t = g.b0 * y - g.a2 * z;
    const w = h.b0 * z + h.s;
    h.s = h.b1 * z - h.a1 * w + h.t;
    h.t = h.b0 * z - h.a2 * w;
    sum += w * w;
  }
  return sum;
};

/** Hears what is pushed into it; the first three hits that are alike are learnt, and are not told. */
export class Ear {
  /** @param {number} rate samples a second @param {number} gap the least between two hits, seconds */
  constructor(rate, gap) {
    if (rate < LEAST_RATE) throw new RangeError(`hits are heard at ${LEAST_RATE} samples a second and more`);
    this.filters = new Filters(rate);
    /** @type {Learnt | null} */
    this.learnt = null;
    /** @type {{ hit: Hit, peaks: Bands }[]} */
    this.learning = [];
    this.hopS = this.filters.size / rate;
    this.gap = Math.round(gap / this.hopS);
    this.hop = -1;
    /** @type {Bands[]} */
    this.levels = [];
    this.usual = BANDS.map(() => new Median(USUAL));
    this.rise = new Median(USUAL);
    /** @type {Rising | null} */
    this.rising = null;
    this.deafUntil = SETTLED;
    this.masked = 0;
  }

  /** Whether hits as they were learnt would not be heard over what is heard now. */
  get tooLoud() { return this.masked >= MASKED_HOPS; }

  /** How loud it is now over the usual, dB: for a picture of it. */
  get level() { return this.levels.length ? weighed(this.shares, less(this.levels[this.levels.length - 1], this.usual.map((one) => one.value(0)))) : 0; }

  get shares() { return this.learnt ? this.learnt.shares : [1 / 3, 1 / 3, 1 / 3]; }

  /** From now on nothing is heard for so long: the phone itself beeps. @param {number} seconds */
  deafen(seconds) {
    this.deafUntil = Math.max(this.deafUntil, this.hop + Math.round(seconds / this.hopS));
    this.rising = null;
  }

  /** @param {Float32Array | number[]} samples @returns {Hit[]} */
  push(samples) {
    const hits = [];
    this.filters.push(samples, (energies) => {
      const hit = this.hear(energies);
      if (hit) hits.push(hit);
    });
    return hits;
  }

  /** @param {Bands} energies @returns {Hit | null} */
  hear(energies) {
    this.hop += 1;
    const levels = energies.map((energy) => 10 * Math.log10(energy + SILENT));
    const usual = this.usual.map((one, band) => one.value(levels[band]));
    const rises = this.rises(levels, usual);
    const told = weighed(this.shares, rises);
    const bound = this.learnt ? Math.max(SHARE * this.learnt.rise, this.rise.value(0) + OVER_USUAL) : UNLEARNT;
    this.remember(levels, told, usual);
    const hit = this.lookOn(levels);
    if (!this.rising && told >= bound && this.hop >= this.deafUntil) {
      this.rising = { hop: this.hop, rises, peaks: levels, usual };
    }
    return hit;
  }

  rises(levels, usual) {
    const before = this.levels.slice(-BEFORE);
    if (!before.length) return [0, 0, 0];
    return levels.map((level, band) => Math.max(0, level - Math.max(usual[band], ...before.map((hop) => hop[band]))));
  }

  remember(levels, told, usual) {
    this.levels.push(levels);
    if (this.levels.length > FADED[1] + BEFORE) this.levels.shift();
    this.usual.forEach((one, band) => one.add(levels[band]));
    this.rise.add(told);
    if (this.learnt) this.masked = weighed(this.shares, less(this.learnt.peaks, usual)) < MASKED ? this.masked + 1 : 0;
  }

  lookOn(levels) {
    const rising = this.rising;
    if (!rising) return null;
    const after = this.hop - rising.hop;
    if (after <= PEAK) rising.peaks = highest(rising.peaks, levels);
    if (after <= PEAK - 1) rising.rises = highest(rising.rises, less(levels, rising.usual));
    if (after < FADED[1]) return null;
    this.rising = null;
    return this.hasFaded(rising) ? this.heard(rising) : null;
  }

  hasFaded({ peaks, usual }) {
    const later = this.levels.slice(FADED[0] - FADED[1] - 1);
    const lowest = BANDS.map((_, band) => Math.min(...later.map((hop) => hop[band])));
    const height = weighed(this.shares, less(peaks, usual));
    const left = weighed(this.shares, less(lowest, usual).map((over) => Math.max(0, over)));
    return left <= (1 - FADES) * height;
  }

  heard({ hop, rises, peaks, usual }) {
    const hit = { at: hop * this.hopS, rises, heights: less(peaks, usual) };
    this.deafUntil = hop + this.gap;
    if (this.learnt) return hit;
    this.learn(hit, peaks);
    return null;
  }

  learn(hit, peaks) {
    const alike = (one) => Math.max(...less(one.peaks, peaks).map(Math.abs)) <= ALIKE;
    this.learning = [...this.learning.slice(1 - TO_LEARN).filter(alike), { hit, peaks }];
    if (this.learning.length < TO_LEARN) return;
    const rises = BANDS.map((_, band) => middle(this.learning.map((one) => one.hit.rises[band])));
    const whole = rises[0] + rises[1] + rises[2];
    const shares = whole ? rises.map((rise) => rise / whole) : this.shares;
    const loudest = BANDS.map((_, band) => middle(this.learning.map((one) => one.peaks[band])));
    this.learnt = { shares, rise: weighed(shares, rises), peaks: loudest };
    this.rise = new Median(USUAL);
  }
}
