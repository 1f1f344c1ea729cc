// Keys that decide or count: each is shown on its button, and who does not want them switches them off on
// this device.
import { component } from "./component.js";
import { local } from "./local.js";

const on = () => local.read("keys")?.on !== false;
const show = () => { document.documentElement.dataset.keys = on() ? "on" : "off"; };

/** Whether a key may do something: not while somebody types, nor when keys are switched off. */
export const keyCounts = (event) => {
  const typing = event.target.closest?.("input, textarea, select") && !event.target.matches(".key-switch input");
  return on() && !typing && !event.ctrlKey && !event.metaKey && !event.altKey && !event.repeat;
};

/** The switch, wherever keys do something. */
export const keySwitch = component(() => ({
  init() { show(); },
  on: on(),
  flip() {
    this.on = !this.on;
    local.write("keys", { on: this.on });
    show();
  },
}));
