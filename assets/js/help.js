// Help where the question arises: what this page is for, what to do next, its words and its keys. "?" opens it.
import { component } from "./component.js";
import { keyCounts } from "./keys.js";

export const helpBox = component(() => ({
  init() {
    document.addEventListener("keydown", (event) => {
      if (event.key !== "?" || !keyCounts(event) || document.querySelector("dialog[open]")) return;
      event.preventDefault();
      this.show();
    });
  },
  async show() {
    this.$refs.box.showModal();
    const of = encodeURIComponent(this.$root.dataset.of ?? "");
    try {
      const answer = await fetch(`/help/?of=${of}`, { headers: { "HX-Request": "true" }, redirect: "manual" });
      this.$refs.told.innerHTML = answer.ok ? await answer.text() : "";
    } catch { this.$refs.told.textContent = "No network: help cannot be looked up just now."; }
  },
  shut() { this.$refs.box.close(); },
}));
