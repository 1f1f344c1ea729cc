// A speed block stops itself: rounds in order, until so many running are slower than the best before them by the limit.
// The same as the core's drop_off; a thumb errs by a tenth, so by hand it takes two.
const TOLERANCE = 1e-9;

/**
 * @param {number[]} rounds seconds, in order
 * @param {number} limit a share
 * @param {number} running slow rounds in a row
 * @returns {{ after: number | null, drop: number }} after how many rounds, and how much slower the last one was
 */
export const stopAfter = (rounds, limit, running = 2) => {
  let best = Infinity;
  let slow = 0;
  for (const [i, seconds] of rounds.entries()) {
    const drop = (seconds - best) / best;
    slow = i > 0 && drop >= limit - TOLERANCE ? slow + 1 : 0;
    if (slow >= running) return { after: i + 1, drop };
    best = Math.min(best, seconds);
  }
  return { after: null, drop: 0 };
};
