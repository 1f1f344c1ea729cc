// The smallest components: something opened, a message that goes away, a draft that is done with, text to copy.
import { component } from "./component.js";
import { store } from "./draft.js";

export const reveal = component((open = false) => ({ open, toggle() { this.open = !this.open; } }));

export const toast = component(() => ({ shown: true, close() { this.shown = false; } }));

// what was sent needs no draft any more
export const sent = component(() => ({ init() { store.drop(this.$root.dataset.sent); } }));

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
