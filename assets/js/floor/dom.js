// Elements by hand: a name, what it has, what is in it.

/**
 * @param {string} name tag, with classes after dots: "button.main"
 * @param {Record<string, any>} given properties; on*: listeners; data and aria attributes by their own names
 * @param {(Node | string | null)[]} inside
 * @returns {any} the element
 */
export const el = (name, given = {}, inside = []) => {
  const [tag, ...classes] = name.split(".");
  const made = document.createElement(tag);
  if (classes.length) made.className = classes.join(" ");
  for (const [key, value] of Object.entries(given)) {
    if (key.startsWith("on")) made.addEventListener(key.slice(2), value);
    else if (key.includes("-") || key === "role") made.setAttribute(key, value);
    else made[key] = value;
  }
  made.append(...inside.filter((one) => one !== null && one !== ""));
  return made;
};

export const button = (text, onclick, look = "button", given = {}) => el(`button.${look}`, { type: "button", onclick, ...given }, [text]);

const CAN_BE_TOUCHED = "button, input";
let down = false;
let later = null;
addEventListener("pointerdown", () => { down = true; }, true);
for (const name of ["pointerup", "pointercancel"]) addEventListener(name, () => { down = false; setTimeout(() => { const then = later; later = null; then?.(); }); }, true);

/** Draw unless a finger is down: what is touched must still be there when the finger comes up. Then it is drawn after. */
export const whenFree = (draw) => { if (down) later = draw; else draw(); };

/**
 * Fill a box anew where what it shows has changed; whatever had the focus there has it again.
 * @param {any} box @param {string} key all that it shows @param {() => (Node | string | null)[]} make
 */
export const fill = (box, key, make) => {
  if (box.dataset.drawn === key) return;
  const at = [...box.querySelectorAll(CAN_BE_TOUCHED)].indexOf(document.activeElement);
  box.dataset.drawn = key;
  box.replaceChildren(...make().filter((one) => one !== null && one !== ""));
  if (at >= 0) box.querySelectorAll(CAN_BE_TOUCHED)[at]?.focus({ preventScroll: true });
};
