// Somebody is hurt: from the strip, on any view, without a network too. One touch on the name stops.
import { button, el, fill } from "./dom.js";

const byId = (id) => document.getElementById(id);

/** @param {any} hall @param {() => any[]} here */
export const stopsOf = (hall, here) => {
  const box = byId("hall-hurt-who");
  const key = byId("hall-hurt-key");
  let words = "";
  const shut = () => { box.hidden = true; key.setAttribute("aria-expanded", "false"); };
  const draw = () => {
    if (box.hidden) return;
    const there = here();
    const list = there.length ? there : hall.players;
    fill(byId("hall-hurt-names"), list.map((one) => `${one.id}${one.rests}`).join(" "), () => list.map((one) => el("li", {}, [
      one.rests ? el("p.tile-halt", {}, [`■ ${one.name} is stopped`]) : button(one.name, () => { hall.hurt(one, words.trim()); draw(); }, "hall-chip hall-stop", { "aria-label": `Hurt: stop ${one.name} now` }),
    ])));
  };
  const open = () => { box.hidden = false; key.setAttribute("aria-expanded", "true"); draw(); byId("hall-hurt-shut").focus({ preventScroll: true }); };
  key.addEventListener("click", () => (box.hidden ? open() : shut()));
  byId("hall-hurt-shut").addEventListener("click", shut);
  const field = /** @type {HTMLInputElement} */ (byId("hall-hurt-where"));
  field.addEventListener("input", () => { words = field.value; });
  return { draw, shut };
};
