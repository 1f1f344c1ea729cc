// The work of a session on this device, from its first stroke until the server has it: tapped, waiting, asking (for its day),
// refused; once it is sent it is gone from here. One record a session, under the id that this device gave it, found by what it
// is of (never by a day: strokes of before midnight are there after it). A report of hurt is a record too, and goes first.
import { openPlace } from "./store.js";

const WORK = "work";
const OLD = "outbox"; // of an earlier version: what waited then waits still

/**
 * @typedef {{ id: string, key: string, state: "tapped" | "waiting" | "asking" | "refused" | "hurt", began: string,
 *   fields: Record<string, string[]>, card?: string, player?: string, url?: string, title?: string, doneAt?: string,
 *   pageDay?: string, why?: string[], days?: string[], closed?: boolean, sent?: [string, string][], hurt?: any }} Work
 */

const place = openPlace({
  name: "drill-ladder", version: 2, prefix: "",
  async upgrade(db, from, _to, change) {
    const work = db.createObjectStore(WORK, { keyPath: "id" });
    work.createIndex("key", "key");
    if (from < 1) return;
    for (const item of await change.objectStore(OLD).getAll()) {
      await work.put({ ...item, key: "", began: item.doneAt, fields: {}, sent: item.fields });
    }
    db.deleteObjectStore(OLD);
  },
});
const byAge = (a, b) => (a.began < b.began ? -1 : 1);

export const work = {
  /** @returns {Promise<Work[]>} the oldest first */
  all: async () => (await place.all(WORK)).sort(byAge),
  /** What was tapped of something and not completed: the latest. */
  tapped: async (key) => (await work.all()).filter((one) => one.key === key && one.state === "tapped").pop() ?? null,
  /** @returns {Promise<string>} on which rung it is kept */
  put: (record) => place.put(WORK, record),
  drop: (id) => place.drop(WORK, [id]),
  /** Nothing of it is to be completed any more. */
  forget: async (key) => {
    for (const one of await work.all()) if (one.key === key && one.state === "tapped") await work.drop(one.id);
  },
};
