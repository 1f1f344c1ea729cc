// What a device keeps until the server has it, on a ladder of three rungs: IndexedDB, each writing on the disk before it is
// answered; where that is refused or full, the little place that every browser has; where that is full or refused too, the
// memory of this page, which is then held open and says so in large words. What is read is always all three together.
import { openDB } from "idb";
import { local } from "./local.js";

const PATIENCE = 4_000; // ms until a database that does not answer counts as none
export const DISK = "disk", SMALL = "small", MEMORY = "memory";

/** @type {Set<() => void>} */
const told = new Set();
/** Be told whenever something begins or ceases to be kept in memory alone. */
export const whenHeld = (then) => { told.add(then); then(); };
const places = new Set();
/** How many records this page alone keeps. */
export const held = () => [...places].reduce((sum, place) => sum + place.held(), 0);

const within = (promise) => {
  let timer;
  const late = new Promise((_, no) => { timer = setTimeout(() => no(new Error("no answer")), PATIENCE); });
  return Promise.race([promise, late]).finally(() => clearTimeout(timer));
};

/**
 * A place for records, each with an id of its own.
 * others: stores of what others have too, which nobody loses with this page; noted: those whose records are never changed by
 * anybody else, so that each can be noted at once, before the disk has answered.
 * @param {{ name: string, version: number, prefix: string, others?: string[], noted?: string[], upgrade: (db: any, from: number, to: number | null, change: any) => any }} given
 */
export const openPlace = ({ name, version, prefix, upgrade, others = [], noted = [] }) => {
  /** @type {Map<string, Map<string, any>>} */
  const memory = new Map();
  const gone = new Set(); // what a disk that refuses could not let go of
  let opened = null;
  const inMemory = (store) => { if (!memory.has(store)) memory.set(store, new Map()); return memory.get(store); };
  const key = (store, id) => `${prefix}${store === name ? "" : `${store}-`}${id}`;

  const base = async () => {
    opened = opened ?? openDB(name, version, {
      upgrade,
      // another version of the program wants it: it is let go at once, and opened anew when it is needed
      blocking(_now, _next, event) { /** @type {IDBDatabase} */ (event.target).close(); opened = null; },
      terminated() { opened = null; },
    });
    try { return await within(opened); } catch (error) { opened = null; throw error; }
  };
  const onDisk = async (store, write) => {
    const change = (await base()).transaction(store, "readwrite", { durability: "strict" });
    try {
      await within(Promise.all([write(change.store), change.done]));
    } catch (error) { opened = null; throw error; }
  };

  const small = (store) => {
    try {
      const start = key(store, "");
      return Object.keys(localStorage).filter((one) => one.startsWith(start)).map((one) => local.read(one)).filter((one) => one?.id);
    } catch { return []; }
  };
  const putSmall = (store, record) => {
    const text = JSON.stringify(record);
    localStorage.setItem(key(store, record.id), text);
    if (localStorage.getItem(key(store, record.id)) !== text) throw new Error("not kept");
    return text;
  };
  // a disk answers after a while, and a page that is closed before that takes with it what was not written: so it is noted
  // at once in the little place, until the disk has answered
  const note = (store, record) => {
    if (!noted.includes(store)) return "";
    try { return putSmall(store, record); } catch { local.drop(key(store, record.id)); return ""; }
  };
  const unnote = (store, record, text) => {
    let now = "";
    try { now = localStorage.getItem(key(store, record.id)); } catch { /* nothing was noted */ }
    if (!text || now === text) local.drop(key(store, record.id)); // else a later one is on its way
  };

  const put = async (store, records) => {
    let at = DISK;
    for (const record of records) gone.delete(`${store} ${record.id}`);
    const notes = records.map((record) => note(store, record));
    try {
      await onDisk(store, (rows) => Promise.all(records.map((record) => rows.put(record))));
      records.forEach((record, i) => { unnote(store, record, notes[i]); inMemory(store).delete(record.id); });
    } catch {
      for (const record of records) {
        try {
          putSmall(store, record);
          inMemory(store).delete(record.id);
          at = at === MEMORY ? MEMORY : SMALL;
        } catch {
          inMemory(store).set(record.id, record);
          at = MEMORY;
        }
      }
    }
    for (const then of told) then();
    return at;
  };

  const place = {
    /** @returns {Promise<any[]>} everything that is kept, on whichever rung */
    all: async (store) => {
      const found = new Map();
      try { for (const record of await within((await base()).getAll(store))) found.set(record.id, record); } catch { /* no disk */ }
      for (const record of [...small(store), ...inMemory(store).values()]) found.set(record.id, record);
      return [...found.values()].filter((record) => !gone.has(`${store} ${record.id}`));
    },
    /** Keep a record, or several at once. @returns {Promise<string>} on which rung */
    put: (store, record) => put(store, Array.isArray(record) ? record : [record]),
    drop: async (store, ids) => {
      for (const id of ids) { local.drop(key(store, id)); inMemory(store).delete(id); }
      try { await onDisk(store, (rows) => Promise.all(ids.map((id) => rows.delete(id)))); } catch { for (const id of ids) gone.add(`${store} ${id}`); }
      for (const then of told) then();
    },
    held: () => [...memory].reduce((sum, [store, one]) => sum + (others.includes(store) ? 0 : one.size), 0),
  };
  places.add(place);
  return place;
};
