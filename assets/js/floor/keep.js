// The taps of this device until the server has them, and what is known of today, so that a tablet that was closed in the
// middle goes on where it was. IndexedDB, each tap on the disk before the next one.
import { openDB } from "idb";

const NAME = "drill-ladder-hall";
const TAPS = "taps";
const SEEN = "seen"; // what the server has of today, this device's and others'

/** @type {Promise<import("idb").IDBPDatabase> | undefined} */
let opened;
const base = () => {
  opened = opened ?? openDB(NAME, 1, {
    upgrade(db) { for (const name of [TAPS, SEEN]) db.createObjectStore(name, { keyPath: "id" }); },
    blocking(_now, _next, event) { /** @type {IDBDatabase} */ (event.target).close(); },
  });
  return opened;
};

const change = async (write, name = TAPS) => {
  const at = (await base()).transaction(name, "readwrite", { durability: "strict" });
  await write(at.store);
  await at.done;
};

export const kept = {
  /** What waits here, of whoever was signed in when it was tapped. */
  all: async (me) => (await (await base()).getAll(TAPS)).filter((tap) => tap.me === me),
  put: (tap) => change((store) => store.put(tap)),
  /** What the server named, kept for a page that is opened without a network. */
  see: async (taps) => { if (taps.length) await change((store) => Promise.all(taps.map((tap) => store.put(tap))), SEEN); },
  /** Everything of a day that the server had when it was last reached; of other days nothing is kept. */
  seen: async (on) => {
    const all = await (await base()).getAll(SEEN);
    const old = all.filter((tap) => tap.on !== on).map((tap) => tap.id);
    if (old.length) await change((store) => Promise.all(old.map((id) => store.delete(id))), SEEN);
    return all.filter((tap) => tap.on === on);
  },
  drop: (ids) => change((store) => Promise.all(ids.map((id) => store.delete(id)))),
};
