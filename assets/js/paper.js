// A sheet typed in with keys alone: Enter and the arrows go from number to number, past those that are as the sheet asks
// unless somebody says otherwise (Tab reaches them), and never send the page half-typed.
import { component } from "./component.js";

const CELLS = "input:not([type=hidden]):not([type=checkbox])";
const AS_ASKED = "[placeholder]";

export const paperGrid = component(() => ({
  cells() {
    const all = /** @type {NodeListOf<HTMLInputElement>} */ (this.$root.querySelectorAll(CELLS));
    return [...all].filter((cell) => cell.offsetParent !== null);
  },
  step(event, by) {
    if (!event.target.matches(CELLS)) return;
    event.preventDefault();
    const cells = this.cells();
    const at = cells.indexOf(event.target);
    const ahead = by > 0 ? cells.slice(at + 1) : cells.slice(0, at).reverse();
    const to = ahead.find((cell) => !cell.matches(AS_ASKED));
    if (to) { to.focus(); to.select(); } else if (by > 0) this.save().focus();
  },
  save() { return /** @type {HTMLElement} */ (this.$root.querySelector("button.main")); },
  next(event) { this.step(event, 1); },
  before(event) { this.step(event, -1); },
}));
