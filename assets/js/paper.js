// A sheet typed in with keys alone: Enter and the arrows go from number to number, and never send the page half-typed.
import { component } from "./component.js";

const CELLS = "input:not([type=hidden]):not([type=checkbox])";

export const paperGrid = component(() => ({
  cells() {
    const all = /** @type {NodeListOf<HTMLInputElement>} */ (this.$root.querySelectorAll(CELLS));
    return [...all].filter((cell) => cell.offsetParent !== null);
  },
  step(event, by) {
    if (!event.target.matches(CELLS)) return;
    event.preventDefault();
    const cells = this.cells();
    const to = cells[cells.indexOf(event.target) + by];
    if (to) { to.focus(); to.select(); } else if (by > 0) this.save().focus();
  },
  save() { return /** @type {HTMLElement} */ (this.$root.querySelector("button.main")); },
  next(event) { this.step(event, 1); },
  before(event) { this.step(event, -1); },
}));
