// The smallest components: something opened, a message that goes away, a kept form that is done with, text to copy.
import { component } from "./component.js";
import { work } from "./work.js";

// A word of the trade explains itself when it is touched, until something else is. Only an open one listens: to ask at every
// touch whether it lies outside costs a layout of the page each time.
export const word = component(() => ({
  open: false,
  elsewhere: null,
  flip() { if (this.open) this.shut(); else this.show(); },
  show() {
    this.open = true;
    this.elsewhere = (event) => { if (!this.$root.contains(event.target)) this.shut(); };
    document.addEventListener("click", this.elsewhere, true);
  },
  shut() {
    this.open = false;
    document.removeEventListener("click", this.elsewhere, true);
  },
  destroy() { document.removeEventListener("click", this.elsewhere, true); },
}));

// who opens something goes on there: the focus moves into its first field
export const reveal = component((open = false) => ({
  open,
  toggle() {
    this.open = !this.open;
    // x-show waits for the next frame, and what is not shown takes no focus
    if (this.open) this.$nextTick(() => requestAnimationFrame(() => this.$refs.opened.querySelector("input:not([type=hidden])").focus()));
  },
}));

export const toast = component(() => ({ shown: true, close() { this.shown = false; } }));

// what was sent needs no kept form any more
export const sent = component(() => ({ init() { work.forget(this.$root.dataset.sent); } }));

export const copy = component(() => ({
  done: false,
  async take() {
    await navigator.clipboard.writeText(this.$refs.text.value);
    this.done = true;
  },
}));

export const themes = component(() => ({
  dark: document.documentElement.dataset.theme === "dark",
  flip() {
    this.dark = !this.dark;
    document.documentElement.dataset.theme = this.dark ? "dark" : "light";
    localStorage.setItem("theme", this.dark ? "dark" : "light");
  },
}));

/** A stopwatch beside a field: it writes its seconds there, and nothing is kept before somebody says so. */
export const stopwatch = component(() => ({
  begun: 0,
  shown: "0.00",
  word: "Start",
  press() {
    if (!this.begun) {
      this.begun = performance.now();
      this.word = "Stop";
      const tick = () => { if (this.begun) { this.shown = this.passed(); requestAnimationFrame(tick); } };
      tick();
      return;
    }
    this.shown = this.passed();
    this.begun = 0;
    this.word = "Start again";
    this.$root.querySelector("input").value = this.shown;
  },
  passed() { return ((performance.now() - this.begun) / 1000).toFixed(2); },
}));
