// Who is here: a squad in one touch, then those who are missing; anybody of the club. Names never move while it is open.
import { button, el, fill } from "./dom.js";

const SAID = { in: "here", late: "here, late", gone: "gone" };
const NEXT = { "": "in", in: "late", late: "gone", gone: "in" };
const byId = (id) => document.getElementById(id);
const isHere = (hall, player) => ["in", "late"].includes(hall.here(player));

/** @param {any} hall @param {(players: any[], word: string) => Promise<void>} mark */
export const drawerOf = (hall, mark) => {
  const box = byId("hall-people");
  const key = byId("hall-drawer");
  const names = [...hall.players].sort((a, b) => a.name.localeCompare(b.name));
  const squads = hall.squads.map((squad) => ({ ...squad, players: names.filter((one) => one.squad === squad.id) })).filter((squad) => squad.players.length);
  const planned = names.filter((one) => one.planned);
  if (planned.length) squads.unshift({ id: 0, name: "Planned today", players: planned });

  const chip = (player) => {
    const state = hall.here(player);
    return el("li", {}, [button(`${player.name}${player.guest ? ", guest" : ""}${state ? `, ${SAID[state]}` : ""}`, () => mark([player], NEXT[state]), "hall-chip", { "aria-pressed": String(isHere(hall, player)), "data-state": state })]);
  };
  const all = (squad) => {
    const away = squad.players.filter((one) => !isHere(hall, one));
    const words = away.length ? `${squad.name}: all ${squad.players.length} here` : `${squad.name}: all here ✓`;
    return button(words, () => mark(away, "in"), "button", { disabled: away.length === 0 });
  };
  const states = (list) => list.map((one) => `${one.id}${hall.here(one)}`).join(" ");
  const draw = () => {
    byId("hall-count").textContent = String(names.filter((one) => isHere(hall, one)).length);
    if (box.hidden) return;
    fill(byId("hall-squads"), squads.map((squad) => `${squad.id} ${states(squad.players)}`).join("|"), () => squads.map(all));
    fill(byId("hall-who"), states(names), () => names.map(chip));
  };
  const open = () => { box.hidden = false; key.setAttribute("aria-expanded", "true"); draw(); byId("hall-shut").focus({ preventScroll: true }); };
  const shut = () => { box.hidden = true; key.setAttribute("aria-expanded", "false"); };
  key.addEventListener("click", () => (box.hidden ? open() : shut()));
  byId("hall-shut").addEventListener("click", shut);
  return { draw, open, shut };
};
