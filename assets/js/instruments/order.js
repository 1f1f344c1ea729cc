// Lanes in turn: attempts change over in a told order, which begins again at its end.

/**
 * The lane that comes next. turns: the order; done, asked: attempts of this set by lane. What is done already is passed over,
 * lane by lane, and so is a lane that has its number; null where all have it.
 * @param {string[]} turns @param {Record<string, number>} done @param {Record<string, number>} asked @returns {string | null}
 */
export const nextInTurn = (turns, done, asked) => {
  const left = { ...done };
  for (let i = 0, idle = 0; idle < turns.length; i += 1, idle += 1) {
    const lane = turns[i % turns.length];
    if (left[lane] > 0) { left[lane] -= 1; idle = -1; } else if ((done[lane] ?? 0) < (asked[lane] ?? 0)) return lane;
  }
  return null;
};

/**
 * The lane of the last attempt, as far as the order tells: what an undo takes back.
 * @param {string[]} turns @param {Record<string, number>} done @returns {string | null}
 */
export const lastInTurn = (turns, done) => {
  const left = { ...done };
  let last = null;
  for (let i = 0, idle = 0; idle < turns.length; i += 1, idle += 1) {
    const lane = turns[i % turns.length];
    if (left[lane] > 0) { left[lane] -= 1; idle = -1; last = lane; }
  }
  return last;
};

/** What is told of lanes in turn beside a form: none where one lane comes after the other. */
export const turnsOf = (data) => (data.turns ? data.turns.split("|") : []);

const sums = (rows, of) => rows.reduce((all, row) => ({ ...all, [row.lane]: (all[row.lane] ?? 0) + of(row) }), {});

/**
 * As nextInTurn and lastInTurn, of rows that have a lane, what is done and what is asked.
 * @typedef {{ lane: string, done: number, asked: number }} Row
 * @param {string[]} turns @param {Row[]} rows
 */
export const nextOf = (turns, rows) => nextInTurn(turns, sums(rows, (row) => row.done), sums(rows, (row) => row.asked));
/** @param {string[]} turns @param {Row[]} rows */
export const lastOf = (turns, rows) => lastInTurn(turns, sums(rows, (row) => row.done));
