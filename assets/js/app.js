// What is open, counted or timed on the device. The truth stays on the server.
import { drafts, store } from "./draft.js";
import { watch } from "./guard.js";
import { hurts } from "./hurt.js";
import { pad } from "./pad.js";
import { floorPlan } from "./plan.js";
import { reviewKeys } from "./review.js";
import { rungOrder } from "./rungs.js";
import { runner } from "./runner.js";
import { weekBoard } from "./week.js";

drafts();
hurts();
watch();
document.addEventListener("alpine:init", () => {
  window.Alpine.data("pad", pad);
  window.Alpine.data("floorPlan", floorPlan);
  window.Alpine.data("reviewKeys", reviewKeys);
  window.Alpine.data("rungOrder", rungOrder);
  window.Alpine.data("runner", runner);
  window.Alpine.data("weekBoard", weekBoard);
  window.Alpine.data("reveal", (open = false) => ({ open, toggle() { this.open = !this.open; } }));
  window.Alpine.data("toast", () => ({ shown: true, close() { this.shown = false; } }));
  // what was sent needs no draft any more
  window.Alpine.data("sent", () => ({ init() { store.drop(this.$root.dataset.sent); } }));
  window.Alpine.data("copy", () => ({
    done: false,
    async take() {
      await navigator.clipboard.writeText(this.$refs.text.value);
      this.done = true;
    },
  }));
  window.Alpine.data("themes", () => ({
    dark: document.documentElement.dataset.theme === "dark",
    flip() {
      this.dark = !this.dark;
      document.documentElement.dataset.theme = this.dark ? "dark" : "light";
      localStorage.setItem("theme", this.dark ? "dark" : "light");
    },
  }));
});
