// A word to a player in the moment: one of the drill's cues by one touch, or typed; said now, or to be said next time. It stands
// on the player's next card. Praise is as short as a correction.
import { button, el } from "./dom.js";

const MOST = 60;

/** What was said to a player today and not taken back. */
export const saidToday = (taps) => {
  const gone = new Set(taps.filter((tap) => tap.act === "undo").map((tap) => tap.value.of));
  return taps.filter((tap) => tap.act === "word" && !gone.has(tap.id));
};

export const wordPart = (hall, player, work, changed) => {
  const say = async (word, now) => {
    if (!word) return;
    await hall.tap(player, null, "word", { word: word.slice(0, MOST), on: now });
    changed();
  };
  const back = async (tap) => { await hall.tap(player, null, "undo", { of: tap.id }); changed(); };
  const field = el("input", { type: "text", maxLength: MOST, placeholder: "Well held, soft hands …", "aria-label": `A word to ${player.name}` });
  const typed = () => field.value.trim();
  const today = saidToday(hall.tapsOf(`p${player.id}`));
  return el("details.hall-word", {}, [
    el("summary", {}, [`A word to ${player.name}${today.length ? ` (${today.length})` : ""}`]),
    ...player.say.map((words) => el("p.note-line", {}, [`To say this time: ${words}`])),
    el("div.hall-keys", {}, (work?.cues ?? []).map((cue) => button(cue, () => say(cue, true)))),
    el("div.hall-number", {}, [field, button("Said", () => say(typed(), true)), button("For next time", () => say(typed(), false), "button quiet")]),
    ...today.map((tap) => el("p", {}, [`${tap.value.on === false ? "Next time" : "Said"}: ${tap.value.word} `, button("Take back", () => back(tap), "button quiet")])),
  ]);
};
