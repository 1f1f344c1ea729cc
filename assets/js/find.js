// Find anything: one box over players, ladders, drills, pages and what can be done. By keyboard alone: "/" opens it, arrows
// move, Enter goes there. What was opened last on this device stands first.
import { component } from "./component.js";
import { keyCounts } from "./keys.js";
import { local } from "./local.js";

const LAST = "found";
const MOST = 6;
const WAIT_MS = 120;

export const findBox = component(() => ({
  words: "",
  shown: "", // the words that the list answers
  timer: null,

  init() {
    document.addEventListener("keydown", (event) => {
      if (event.key !== "/" || !keyCounts(event) || document.querySelector("dialog[open]")) return;
      event.preventDefault();
      this.show();
    });
  },
  show() {
    this.$refs.box.showModal();
    this.$refs.words.value = "";
    this.$refs.words.focus();
    this.ask();
  },
  shut() { this.$refs.box.close(); },
  typed() { clearTimeout(this.timer); this.timer = setTimeout(() => this.ask(), WAIT_MS); },
  async ask() {
    const words = this.$refs.words.value;
    this.words = words;
    try {
      const answer = await fetch(`/find/?words=${encodeURIComponent(words)}`, { headers: { Accept: "text/html" }, redirect: "manual" });
      if (!answer.ok || this.words !== words) return; // a later one is on its way
      this.$refs.found.innerHTML = await answer.text();
      this.shown = words;
    } catch { this.$refs.found.textContent = "No network: nothing can be looked up just now."; return; }
    if (!words.trim()) this.before();
    this.mark(0);
  },
  // what was opened last, before the pages
  before() {
    const list = this.$refs.found.querySelector("ul");
    for (const [title, kind, href] of [...(local.read(LAST)?.rows ?? [])].reverse()) {
      const same = [...list.querySelectorAll("a")].find((one) => one.getAttribute("href") === href);
      const row = same?.parentElement ?? list.querySelector("li").cloneNode(true);
      const link = row.querySelector("a");
      link.setAttribute("href", href);
      link.querySelector("strong").textContent = title;
      link.querySelector("span").textContent = kind;
      list.prepend(row);
    }
  },
  links() { return [...this.$refs.found.querySelectorAll("a")]; },
  at() { return this.links().findIndex((one) => one.getAttribute("aria-selected") === "true"); },
  mark(n) {
    const links = this.links();
    links.forEach((one, i) => one.setAttribute("aria-selected", String(i === n)));
    links[n]?.scrollIntoView({ block: "nearest" });
  },
  key(event) {
    const step = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    if (step) { event.preventDefault(); this.mark(Math.max(0, Math.min(this.links().length - 1, this.at() + step))); }
    if (event.key === "Enter") { event.preventDefault(); void this.open(); }
  },
  // whoever types quicker than the answer comes goes where they meant, not where the list stood before
  async open() {
    clearTimeout(this.timer);
    if (this.shown !== this.$refs.words.value) await this.ask();
    this.links()[this.at()]?.click();
  },
  // kept on this device alone, and only where it leads inside the program
  keep(event) {
    const link = event.target.closest("a");
    if (!link) return;
    const row = [link.querySelector("strong").textContent, link.querySelector("span").textContent, link.getAttribute("href")];
    const before = (local.read(LAST)?.rows ?? []).filter(([, , href]) => href !== row[2]);
    local.write(LAST, { rows: [row, ...before].slice(0, MOST) });
  },
}));
