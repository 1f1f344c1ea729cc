// The work of a session on this device, from its first stroke until the server has it: tapped, waiting, refused; once it is
// sent it is gone from here. One record a session, under the id that this device gave it, found by what it is of (never by
// a day: strokes of before midnight are there after it). IndexedDB, and where a device has none the little that it has.
import { openDB } from "idb";
import { local } from "./local.js";

const NAME = "drill-ladder";
const WORK = "work";
const OLD = "outbox"; // of an earlier version: what waited then waits still

/**
 * @typedef {{ id: string, key: string, state: "tapped" | "waiting" | "refused", began: string, fields: Record<string, string[]>,
 *   card?: string, player?: string, url?: string, title?: string, doneAt?: string, pageDay?: string, why?: string[],
 *   sent?: [string, string][] }} Work
 */

/** @type {Promise<import("idb").IDBPDatabase> | undefined} */
let opened;
const base = () => {
  opened = opened ?? openDB(NAME, 2, {
    async upgrade(db, from, _to, change) {
      const work = db.createObjectStore(WORK, { keyPath: "id" });
      work.createIndex("key", "key");
      if (from < 1) return;
      for (const item of await change.objectStore(OLD).getAll()) {
        await work.put({ ...item, key: "", began: item.doneAt, fields: {}, sent: item.fields });
      }
      db.deleteObjectStore(OLD);
    },
    blocking(_now, _next, event) { /** @type {IDBDatabase} */ (event.target).close(); },
  });
  return opened;
};

const inDatabase = {
  /** @returns {Promise<Work[]>} */
  all: async () => (await base()).getAll(WORK),
  // strict: it is on the disk and not only on its way there, whatever becomes of the battery
  put: async (record) => {
    const change = (await base()).transaction(WORK, "readwrite", { durability: "strict" });
    await change.store.put(record);
    await change.done;
  },
  drop: async (id) => { await (await base()).delete(WORK, id); },
};

const PREFIX = "work-";
const inPlace = {
  all: async () => Object.keys(localStorage).filter((key) => key.startsWith(PREFIX)).map((key) => local.read(key)).filter(Boolean),
  put: async (record) => { local.write(PREFIX + record.id, record); },
  drop: async (id) => { local.drop(PREFIX + id); },
};

const place = () => (globalThis.indexedDB ? inDatabase : inPlace);
const byAge = (a, b) => (a.began < b.began ? -1 : 1);

export const work = {
  /** @returns {Promise<Work[]>} the oldest first */
  all: async () => (await place().all()).sort(byAge),
  /** What was tapped of something and not completed: the latest. */
  tapped: async (key) => (await work.all()).filter((one) => one.key === key && one.state === "tapped").pop() ?? null,
  put: (record) => place().put(record),
  drop: (id) => place().drop(id),
  /** Nothing of it is to be completed any more. */
  forget: async (key) => {
    for (const one of await work.all()) if (one.key === key && one.state === "tapped") await work.drop(one.id);
  },
};
