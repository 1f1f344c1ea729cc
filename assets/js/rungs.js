// Moving a rung: dragged by its handle, or with the arrow keys. The server puts the rows in order.
const EDGE = 70;

export const rungOrder = () => ({
  held: null,

  rows() { return [...this.$root.querySelectorAll(".builder > li")]; },
  grab(event) {
    const item = event.target.closest("li");
    this.held = { item, from: Number(event.target.closest(".rung-handle").dataset.row), y: event.pageY, to: null };
    event.target.setPointerCapture(event.pointerId);
    event.preventDefault();
  },
  drag(event) {
    if (!this.held) return;
    // rows are tall: near the edge the page comes along
    if (event.clientY < EDGE) window.scrollBy(0, -EDGE / 4);
    else if (event.clientY > window.innerHeight - 2 * EDGE) window.scrollBy(0, EDGE / 4);
    const { item, y, from } = this.held;
    const down = event.pageY > y;
    item.style.transform = `translateY(${event.pageY - y}px)`;
    item.classList.add("dragged");
    // the list is drawn from the bottom up: the first rung is the lowest on the page; a third of a row is enough
    const below = this.rows().filter((row) => row !== item).filter((row) => {
      const box = row.getBoundingClientRect();
      return event.clientY < (down ? box.top + box.height / 3 : box.bottom - box.height / 3);
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
