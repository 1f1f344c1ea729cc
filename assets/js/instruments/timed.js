// What a timed trial holds beside its seconds: laps, and faults by name. Laps stand in its row of strokes as hundredths of a
// second, l in front of each; c says that faults were counted.

/** @param {number} ms since the start */
export const withLap = (row, ms) => `${row}l${Math.round(ms / 10)}`;

/** Each lap in seconds, from the one before. */
export const lapsOf = (row) => {
  const marks = [...row.matchAll(/l(\d+)/g)].map((found) => Number(found[1]) / 100);
  return marks.map((mark, i) => mark - (marks[i - 1] ?? 0));
};

const read = (text) => new Map(text.split(";").filter(Boolean).map((part) => {
  const at = part.lastIndexOf(":");
  return /** @type {[string, number]} */ ([part.slice(0, at), Number(part.slice(at + 1))]);
}));

/** One fault more, in the form's words: late:2;wide:1. */
export const withFault = (text, name) => {
  const counts = read(text);
  counts.set(name, (counts.get(name) ?? 0) + 1);
  return [...counts].map(([fault, times]) => `${fault}:${times}`).join(";");
};
export const faultsOn = (text) => [...read(text)].map(([fault, times]) => `${fault} ${times}`).join(", ");
