// A sheet typed in with keys alone: Enter and the arrows go down the column, from block to block, past those that are as the
// sheet asks unless somebody says otherwise (Tab reaches them). They never send the page half-typed, and never end in the
// place where a hurt is told.
import { component } from "./component.js";

const CELLS = ".paper-cell input:not([type=hidden]):not([type=checkbox])";
const AS_ASKED = "[placeholder]";
const EFFORT = "effort";

// what a cell counts: its column
const columnOf = (cell) => (cell.name.endsWith(`-${EFFORT}`) ? EFFORT : cell.name.match(/-e\d+-(\w+)$/)?.[1] ?? "");

/** Whether Enter in one cell goes on to another one: down its column, to the block's effort, and from there to the next block. */
export const goesTo = (from, to) => {
  const [here, there] = [columnOf(from), columnOf(to)];
  return here === EFFORT || here === "" || there === here || there === EFFORT;
};

export const paperGrid = component(() => ({
  cells() {
    const all = /** @type {NodeListOf<HTMLInputElement>} */ (this.$root.querySelectorAll(CELLS));
    return [...all].filter((cell) => cell.offsetParent !== null);
  },
  step(event, by) {
    if (event.target.matches("[name$='-hurt']")) { event.preventDefault(); return; } // words are ended by Tab, or by the button
    if (!event.target.matches(CELLS)) return;
    event.preventDefault();
    const cells = this.cells();
    const at = cells.indexOf(event.target);
    const ahead = by > 0 ? cells.slice(at + 1) : cells.slice(0, at).reverse();
    const to = ahead.find((cell) => !cell.matches(AS_ASKED) && goesTo(event.target, cell));
    if (to) { to.focus(); to.select(); } else if (by > 0) this.save().focus();
  },
  save() { return /** @type {HTMLElement} */ (this.$root.querySelector("button.main")); },
  next(event) { this.step(event, 1); },
  before(event) { this.step(event, -1); },
}));
