// "Today" and "Yesterday" are meant as on the page's own date. A page that was kept from another day, or a device whose clock
// says another day than the program, says so, and the day is chosen by its name.
import { now } from "./clock.js";

const FAR = 14; // days that a kept page may be old for the device's own day to be offered

const iso = (at) => { const d = new Date(at); return `${d.getFullYear()}-${String(d.getMonth() + 1).padStart(2, "0")}-${String(d.getDate()).padStart(2, "0")}`; };
/** The device's own day. */
export const dayOf = (at = now()) => iso(at);
/** Its name, in full. */
export const dayWords = (day) => new Date(`${day}T12:00:00`).toLocaleDateString("en-GB", { weekday: "long", day: "numeric", month: "long" });
const apart = (one, other) => Math.round((Date.parse(one) - Date.parse(other)) / 86_400_000);

/** Look at a form that was just opened: whether its page is of another day than the device. */
export const pageDay = (form, taken) => {
  const { day } = form.dataset;
  const chosen = form.elements.on;
  const box = form.querySelector("[data-other-day]");
  const here = dayOf();
  if (!day || !chosen?.options || !box || day === here) return;
  for (const option of chosen.options) option.textContent = dayWords(option.value);
  const before = apart(here, day);
  if (before > 0 && before <= FAR) chosen.prepend(new Option(`${dayWords(here)}, today on this device`, here));
  chosen.prepend(new Option("Choose the day", ""));
  if (!taken) chosen.value = "";
  box.textContent = `This page is of ${dayWords(day)}, and this device says that it is ${dayWords(here)}. On which day did you do it?`;
  box.hidden = false;
  const asked = form.appendChild(Object.assign(document.createElement("input"), { type: "hidden", name: "day_asked", value: "yes" }));
  asked.dataset.asked = "yes";
};

/** Whether a day stands in the form; if none does, the finger is led there. */
export const dayIsChosen = (form) => {
  const chosen = form.elements.on;
  if (!chosen?.options || chosen.value) return true;
  const box = form.querySelector("[data-other-day]");
  box?.classList.add("over");
  chosen.scrollIntoView({ block: "center" });
  chosen.focus();
  return false;
};
