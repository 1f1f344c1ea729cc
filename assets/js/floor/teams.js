// Two teams of those who are here: some wear bibs. Their points stand above; nobody's own count does.
import { withBibs } from "./goal.js";
import { button, el, fill } from "./dom.js";

/** Every second one gets a bib, in an order that chance gives. */
export const sharedOut = (players, chance = Math.random) => {
  const order = players.map((player) => ({ player, at: chance() })).sort((a, b) => a.at - b.at);
  return order.map(({ player }, i) => ({ player, on: i % 2 === 0 }));
};

/** @param {any} hall @param {() => void} changed */
export const teamsOf = (hall, changed) => {
  const taps = () => [...hall.taps.values()].filter((tap) => !tap.refused);
  const say = async (all) => {
    for (const { player, on } of all) await hall.tap(player, null, "team", { on });
    changed();
  };
  const inside = (players, bibs) => [
    el("h3", {}, ["Who wears a bib?"]),
    el("div.hall-chips", { role: "group", "aria-label": "Who wears a bib?" }, players.map((player) => button(player.name, () => say([{ player, on: !bibs.has(player.id) }]), "hall-chip", { "aria-pressed": String(bibs.has(player.id)) }))),
    el("p.actions", {}, [button("Share them out", () => say(sharedOut(players)), "button")]),
  ];
  /** Only where the day's goal is for teams. */
  const draw = (box, players) => {
    const bibs = withBibs(taps());
    const on = hall.goal && hall.goal_kind === "teams" && players.length > 1;
    fill(box, on ? players.map((player) => `${player.id}${bibs.has(player.id)}`).join(" ") : "none", () => (on ? inside(players, bibs) : []));
  };
  return { draw };
};
