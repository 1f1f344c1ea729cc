// A device that keeps nothing: the page says so in large words, and asks before it is left, until everything is sent.
import { held, whenHeld } from "./store.js";

const WORDS = "This device keeps nothing: its storage is full or switched off. Keep this page open until everything is sent.";
const ask = (event) => { event.preventDefault(); event.returnValue = ""; };

const bar = () => {
  const known = document.getElementById("held");
  if (known) return known;
  const made = document.createElement("p");
  Object.assign(made, { id: "held", className: "held", textContent: WORDS });
  made.setAttribute("role", "alert");
  document.body?.prepend(made);
  return made;
};

export const sayHeld = () => whenHeld(() => {
  const yes = held() > 0;
  if (yes) bar().hidden = false;
  else if (document.getElementById("held")) bar().hidden = true;
  if (yes) addEventListener("beforeunload", ask); else removeEventListener("beforeunload", ask);
});
