// The coach's pages. What is open, counted or timed on the device; the truth stays on the server.
import { comeBack } from "./come_back.js";
import { keptForms } from "./kept_form.js";
import { watchFaults } from "./faults.js";
import { findBox } from "./find.js";
import { helpBox } from "./help.js";
import { watch } from "./guard.js";
import { sayHeld } from "./held.js";
import { hurts } from "./hurt.js";
import { instrument } from "./instruments/instrument.js";
import { paperGrid } from "./paper.js";
import { pad } from "./pad.js";
import { floorPlan } from "./plan.js";
import { pictures } from "./picture.js";
import { keepFocus } from "./focus.js";
import { keySwitch } from "./keys.js";
import { reviewKeys } from "./review.js";
import { rungOrder } from "./rungs.js";
import { runner } from "./runner.js";
import { copy, reveal, sent, stopwatch, themes, toast } from "./small.js";
import { weekBoard } from "./week.js";
import { leadToWrong } from "./wrong.js";

const components = { copy, findBox, floorPlan, helpBox, instrument, keySwitch, pad, paperGrid, reveal, reviewKeys, rungOrder, runner, sent, stopwatch, themes, toast, weekBoard };

// whoever signs out leaves no page of the hall on the device; entries that were not sent stay for them
document.addEventListener("submit", (event) => {
  const form = /** @type {HTMLFormElement} */ (event.target);
  if (form.getAttribute("action")?.endsWith("/logout/")) globalThis.caches?.delete("floor-pages");
});

keptForms();
hurts();
sayHeld();
watchFaults();
leadToWrong();
keepFocus();
watch();
comeBack();
pictures();
document.addEventListener("alpine:init", () => {
  for (const [name, component] of Object.entries(components)) window.Alpine.data(name, component);
});
