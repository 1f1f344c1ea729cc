// A speed block stops itself by what adds up: each round against the median of the first three, less half the limit, summed and
// never under nothing. The same as the core's drop_off_sum (Page's cumulative sum); one test holds both to the same cases.
const TOLERANCE = 1e-9;
const BASE = 3;
const NOISE = 0.02; // share of a round's time, where nobody knows the typical error
const HALF_LIMITS = [0.25, 0.5, 0.75, 1, 1.25, 1.5, 2, 3];
const HEIGHTS = [6.16, 4.59, 3.39, 2.49, 1.8, 1.32, 0.7, 0.5];

const heightOf = (ratio) => {
  if (ratio <= HALF_LIMITS[0]) return HEIGHTS[0];
  const at = HALF_LIMITS.findIndex((high) => ratio <= high);
  if (at < 0) return HEIGHTS.at(-1);
  const [low, high] = [HALF_LIMITS[at - 1], HALF_LIMITS[at]];
  return HEIGHTS[at - 1] + ((HEIGHTS[at] - HEIGHTS[at - 1]) * (ratio - low)) / (high - low);
};
const median = (rounds) => [...rounds].sort((a, b) => a - b)[1];

// before anything is usual, only two rounds running slower by twice the limit stop
const early = (rounds, limit) => {
  let best = rounds[0];
  let slow = 0;
  for (const [i, seconds] of rounds.entries()) {
    slow = (seconds - best) / best >= 2 * limit - TOLERANCE ? slow + 1 : 0;
    if (slow === 2) return i + 1;
    best = Math.min(best, seconds);
  }
  return null;
};

/**
 * @param {number[]} rounds seconds, in order
 * @param {number} limit a share
 * @returns {{ after: number | null, drop: number }} after how many rounds, and how much slower than usual the last one was
 */
export const stopAfter = (rounds, limit) => {
  const first = rounds.length ? early(rounds.slice(0, BASE), limit) : null;
  if (first !== null) return { after: first, drop: rounds[first - 1] / rounds[0] - 1 };
  const base = rounds.length > BASE ? median(rounds.slice(0, BASE)) : 0;
  const height = NOISE * heightOf(limit / 2 / NOISE);
  let sum = 0;
  for (const [i, seconds] of rounds.entries()) {
    if (i < BASE || !base) continue;
    sum = Math.max(0, sum + seconds / base - 1 - limit / 2);
    if (sum >= height - TOLERANCE) return { after: i + 1, drop: seconds / base - 1 };
  }
  return { after: null, drop: 0 };
};
