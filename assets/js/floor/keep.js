// The taps of this device until the server has them, and what is known of today, so that a tablet that was closed in the
// middle goes on where it was.
import { openPlace } from "../store.js";

const TAPS = "taps";
const SEEN = "seen"; // what the server has of today, this device's and others'

const place = openPlace({
  name: "drill-ladder-hall", version: 1, prefix: "hall-", others: [SEEN], noted: [TAPS],
  upgrade(db) { for (const name of [TAPS, SEEN]) db.createObjectStore(name, { keyPath: "id" }); },
});
// reports of hurt first, then in the order in which they were tapped
const byOrder = (a, b) => Number(b.act === "hurt") - Number(a.act === "hurt") || (a.c ?? 0) - (b.c ?? 0);

export const kept = {
  /** What waits here, of whoever was signed in when it was tapped. */
  all: async (me) => (await place.all(TAPS)).filter((tap) => tap.me === me).sort(byOrder),
  put: (tap) => place.put(TAPS, tap),
  /** What the server named, kept for a page that is opened without a network. */
  see: async (taps) => { if (taps.length) await place.put(SEEN, taps); },
  /** Everything of a day that the server had when it was last reached; of other days nothing is kept. */
  seen: async (on) => {
    const all = await place.all(SEEN);
    const old = all.filter((tap) => tap.on !== on).map((tap) => tap.id);
    if (old.length) await place.drop(SEEN, old);
    return all.filter((tap) => tap.on === on);
  },
  drop: async (ids) => { if (ids.length) await place.drop(TAPS, ids); },
};
