// Everything that the hall's page knows: who there is, every tap of today, and what they come to.
import { moment } from "../clock.js";
import { newId } from "../local.js";
import { kept } from "./keep.js";
import { fold, inOrder, isBusy, progress, restLeft } from "./state.js";

/** The hall as the server gave it, with what this device has kept of today beside it. */
export const openHall = async (given) => {
  const taps = new Map(given.taps.map((tap) => [tap.id, tap]));
  for (const tap of await kept.seen(given.on)) if (!taps.has(tap.id)) taps.set(tap.id, tap);
  await kept.see(given.taps.map((tap) => ({ ...tap, on: given.on })));
  const mine = await kept.all(given.me);
  for (const tap of mine) if (!taps.has(tap.id)) taps.set(tap.id, { ...tap, waits: true });
  // how many this device has tapped that the server does not have yet: their order, whatever its clock does
  let tapped = Math.max(0, ...mine.map((tap) => tap.c ?? 0));
  const byStay = new Map();
  let counted = -1;

  const sort = () => {
    byStay.clear();
    for (const tap of taps.values()) {
      if (tap.refused || tap.act === "hurt") continue;
      const key = tap.stay ?? `p${tap.player}`;
      byStay.set(key, [...(byStay.get(key) ?? []), tap]);
    }
  };
  const of = (key) => {
    const now = [...taps.values()].filter((tap) => !tap.refused).length;
    if (now !== counted) { sort(); counted = now; }
    return byStay.get(key) ?? [];
  };

  const hall = {
    ...given, taps,
    player: (id) => given.players.find((one) => one.id === id),
    /** in, late, gone, or nothing where nobody said. */
    here: (player) => of(`p${player.id}`).filter((tap) => tap.act === "here").sort(inOrder).at(-1)?.value.word ?? "",
    present: () => given.players.filter((one) => ["in", "late"].includes(hall.here(one))),
    came: (player) => {
      const first = of(`p${player.id}`).filter((tap) => tap.act === "here" && tap.value.word !== "gone").map((tap) => new Date(tap.at).getTime());
      return first.length ? Math.min(...first) : null;
    },
    tapsOf: of,
    read: (work) => {
      const folded = fold(work, of(work.stay));
      const at = progress(work, folded);
      return { folded, at, over: folded.closed || at.whole };
    },
    /** What a player should do now: the first that is not done; and whether anything is left. */
    now: (player) => {
      const first = player.work.find((work) => !hall.read(work).over) ?? null;
      // judged in the same repetitions: whichever is behind, the routine's first of two that are level
      const group = (first?.beside ?? []).map((stay) => player.work.find((work) => work.stay === stay)).filter((work) => work && !hall.read(work).over);
      const judged = (work) => hall.read(work).at.lanes.reduce((sum, lane) => sum + lane.done, 0);
      return group.length ? group.reduce((least, work) => (judged(work) < judged(least) ? work : least)) : first;
    },
    /** A lane as this player is told it. */
    saidOf: (work, lane) => work.said[work.lanes.indexOf(lane)] ?? lane,
    slow: new Map(), // stay -> until when the rest after a slow one goes, by this device's own clock
    /** Milliseconds of rest that a player still has. */
    rested: (player, now) => Math.max(0, ...player.work.map((one) => Math.max((hall.slow.get(one.stay) ?? 0) - now, restLeft(one, hall.read(one).folded, now)))),
    tap: async (player, stay, act, value, lane = "") => {
      tapped += 1;
      const tap = { id: newId(), at: moment(), player: player.id, stay, act, lane, value, me: given.me, c: tapped };
      taps.set(tap.id, { ...tap, waits: true });
      document.documentElement.dataset.sent = "no";
      await kept.put(tap);
      return tap;
    },
    /** Whoever rests now, as the server says it; whether that is news. What this device told itself holds at once. */
    rest: (ids) => {
      const told = new Set([...taps.values()].filter((tap) => tap.act === "hurt" && tap.waits).map((tap) => tap.player));
      let news = false;
      for (const player of given.players) {
        const rests = ids.includes(player.id) || told.has(player.id);
        news = news || rests !== player.rests;
        player.rests = rests;
      }
      return news;
    },
    /** Reports of hurt that have not reached the server. */
    untold: () => [...taps.values()].filter((tap) => tap.act === "hurt" && tap.waits),
    /** The last tap of a stay that can be taken back. */
    last: (work) => {
      const back = new Set(of(work.stay).filter((tap) => tap.act === "undo").map((tap) => tap.value.of));
      return of(work.stay).filter((tap) => !["undo", "told"].includes(tap.act) && !back.has(tap.id)).sort(inOrder).at(-1);
    },
    /** The last tap of a player, on any rung, that can be taken back. */
    lastOf: (player) => player.work.map((work) => hall.last(work)).filter(Boolean).sort(inOrder).at(-1),
    /** For the queue: whether there is work left, whether a set is under way, from when on the next one may begin. */
    waiting: (player, now) => {
      const work = hall.now(player);
      const came = hall.came(player) ?? now;
      const reads = player.work.map((one) => hall.read(one));
      const busy = reads.some(({ folded }) => isBusy(folded, now));
      const left = hall.rested(player, now);
      const ended = reads.map(({ folded }) => folded.sets.at(-1)?.last).filter(Boolean).map((at) => new Date(at).getTime());
      return { id: player.id, open: work !== null, busy, readyAt: left > 0 ? now + left : Math.max(came, ...ended) };
    },
    span: (player, now) => {
      const sets = player.work.flatMap((work) => hall.read(work).folded.sets.map((set) => [new Date(set.begun).getTime(), new Date(set.last ?? set.begun).getTime()]));
      const rest = Math.max(0, ...player.work.map((work) => Math.max(work.rest, work.rest_each) * 1000));
      const ends = sets.map(([, ended]) => ended);
      return { came: hall.came(player) ?? now, until: hall.now(player) ? now : Math.max(hall.came(player) ?? now, ...ends), sets, rest };
    },
    good: () => given.players.flatMap((player) => player.work).reduce((sum, work) => sum + hall.read(work).at.lanes.reduce((of_, lane) => of_ + lane.good, 0), 0),
  };
  hall.rest(given.players.filter((player) => player.rests).map((player) => player.id));
  return hall;
};
