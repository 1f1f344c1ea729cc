// Who is next: whoever is rested and has waited longest takes the place that is free. Rest by intent is kept and is no idle
// time; idle is who is rested, has work left and stands there.

/**
 * @typedef {{ id: number, open: boolean, busy: boolean, readyAt: number }} Waiting readyAt: ms, when the rest is over
 */

/**
 * Who works now, who is next, who rests. places: how many can work at once.
 * @param {Waiting[]} players
 * @param {number} places
 * @param {number} now
 */
export const queue = (players, places, now) => {
  const busy = players.filter((one) => one.busy);
  const rest = players.filter((one) => one.open && !one.busy && one.readyAt > now).sort((a, b) => a.readyAt - b.readyAt);
  const ready = players.filter((one) => one.open && !one.busy && one.readyAt <= now).sort((a, b) => a.readyAt - b.readyAt);
  const free = Math.max(0, places - busy.length);
  return { busy, up: ready.slice(0, free), then: [...ready.slice(free), ...rest] };
};

/**
 * The longest that anybody stood there rested, with work left, and did nothing; nothing where nobody did. spans: as below.
 * @param {{ name: string, came: number, until: number, sets: [number, number][], rest: number }[]} spans
 */
export const longestWait = (spans) => {
  const waits = spans.flatMap(({ name, came, until, sets, rest }) => {
    const ordered = [...sets].sort((a, b) => a[0] - b[0]);
    const free = [came, ...ordered.map(([, ended]) => ended + rest)];
    const busy = [...ordered.map(([begun]) => begun), until];
    return free.map((at, i) => ({ name, ms: busy[i] - at }));
  });
  const longest = waits.sort((a, b) => b.ms - a.ms)[0];
  return longest && longest.ms > 0 ? longest : null;
};

const clipped = (from, to, first, last) => Math.max(0, Math.min(to, last) - Math.max(from, first));

/**
 * The share of everybody's time that was neither work nor rest by intent. spans: for each player when they came, their sets
 * as [begun, ended], the rest after each set, until when they had work (ms).
 * @param {{ came: number, until: number, sets: [number, number][], rest: number }[]} spans
 */
export const idleShare = (spans) => {
  let whole = 0;
  let used = 0;
  for (const one of spans) {
    whole += Math.max(0, one.until - one.came);
    const sets = [...one.sets].sort((a, b) => a[0] - b[0]);
    sets.forEach(([begun, ended], i) => {
      used += clipped(begun, ended, one.came, one.until);
      const next = sets[i + 1]?.[0] ?? one.until;
      used += clipped(ended, Math.min(ended + one.rest, next), one.came, one.until);
    });
  }
  return whole > 0 ? Math.max(0, 1 - used / whole) : 0;
};
