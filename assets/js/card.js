// The player's pages, opened by a link on a phone: no more than they need.
import { keptForms } from "./kept_form.js";
import { sayHeld } from "./held.js";
import { hurts } from "./hurt.js";
import { instrument } from "./instruments/instrument.js";
import { offline } from "./offline.js";
import { unsent } from "./unsent.js";
import { pad } from "./pad.js";
import { partInstrument, partPad, partTyped, runRoutine } from "./routine_run.js";
import { runInstrument, runPad, runPage, runTyped } from "./run.js";
import { reveal, sent, toast, word } from "./small.js";

const components = { instrument, pad, partInstrument, partPad, partTyped, reveal, runInstrument, runPad, runPage, runRoutine, runTyped, sent, toast, word };

keptForms();
hurts();
sayHeld();
unsent();
offline();
document.addEventListener("alpine:init", () => {
  for (const [name, component] of Object.entries(components)) window.Alpine.data(name, component);
});
