// Keys for the review: one letter for each thing a coach can do with a proposal.
import { component } from "./component.js";
import { keyCounts } from "./keys.js";
const KEYS = { c: "confirm", h: "hold", o: "override", l: "later", u: "undo" };

export const reviewKeys = component(() => ({
  press(event) {
    const action = keyCounts(event) && KEYS[event.key.toLowerCase()];
    /** @type {HTMLElement} */
    const button = action && document.querySelector(`[data-action="${action}"]`);
    if (!button) return;
    event.preventDefault();
    button.click();
  },
}));
