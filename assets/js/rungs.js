// Moving a rung: dragged by its handle, or with the arrow keys. The server puts the rows in order.
export const rungOrder = () => ({
  held: null,

  rows() { return [...this.$root.querySelectorAll(".builder > li")]; },
  grab(event) {
    const item = event.target.closest("li");
    this.held = { item, from: Number(event.target.closest(".rung-handle").dataset.row), y: event.clientY, to: null };
    event.target.setPointerCapture(event.pointerId);
    event.preventDefault();
  },
  drag(event) {
    if (!this.held) return;
    const { item, y, from } = this.held;
    item.style.transform = `translateY(${event.clientY - y}px)`;
    item.classList.add("dragged");
    // the list is drawn from the bottom up: the first rung is the lowest on the page
    const others = this.rows().filter((row) => row !== item);
    const below = others.filter((row) => {
      const box = row.getBoundingClientRect();
      return box.top + box.height / 2 > event.clientY;
    });
    this.held.to = below.length === from ? null : below.length;
  },
  release() {
    const held = this.held;
    this.cancel();
    if (held && held.to !== null) this.move(held.from, held.to);
  },
  cancel() {
    if (this.held) {
      this.held.item.style.transform = "";
      this.held.item.classList.remove("dragged");
    }
    this.held = null;
  },
  key(event, by) {
    const from = Number(event.target.dataset.row);
    const to = from + by;
    if (to < 0 || to >= this.rows().length) return;
    this.move(from, to);
  },
  move(from, to) {
    const mover = this.$refs.mover;
    mover.value = `to-${from}-${to}`;
    document.body.addEventListener("htmx:afterSettle", () => {
      const handle = document.querySelector(`.rung-handle[data-row="${to}"]`);
      if (handle) handle.focus();
    }, { once: true });
    mover.click();
  },
});
