// How fast and how evenly hits come. The twin of pace_of in core/hall/hearing.py.
const FEWEST = 8;
const STEADY = 0.15;
const FETCHED = 2; // times the usual: somebody fetched the ball

const middle = (values) => [...values].sort((a, b) => a - b)[values.length >> 1];

/** @param {number[]} moments ms @returns {{ aMinute: number, steady: boolean } | null} null for fewer than eight */
export const paceOf = (moments) => {
  if (moments.length < FEWEST) return null;
  const gaps = moments.slice(1).map((moment, i) => moment - moments[i]);
  const usual = middle(gaps);
  const longest = Math.max(...gaps);
  if (longest > FETCHED * usual) gaps.splice(gaps.indexOf(longest), 1);
  const mean = gaps.reduce((all, gap) => all + gap, 0) / gaps.length;
  const spread = Math.sqrt(gaps.reduce((all, gap) => all + (gap - mean) ** 2, 0) / gaps.length);
  return { aMinute: Math.round(60_000 / mean), steady: spread / mean <= STEADY };
};
