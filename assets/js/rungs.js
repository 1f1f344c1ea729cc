// Moving a rung: dragged by its handle, or with the arrow keys. The server puts the rows in order.
import { component } from "./component.js";
import { carrying, focusAgain } from "./carry.js";

const EDGE = 70;

export const rungOrder = component(() => ({
  ...carrying,

  rows() { return [...this.$root.querySelectorAll(".builder > li")]; },
  grab(event) {
    this.take(event, event.target.closest("li"), { from: Number(event.target.dataset.row), to: null });
  },
  drag(event) {
    if (!this.held) return;
    // rows are tall: near the edge the page comes along
    if (event.clientY < EDGE) window.scrollBy(0, -EDGE / 4);
    else if (event.clientY > window.innerHeight - 2 * EDGE) window.scrollBy(0, EDGE / 4);
    const { item, y, from } = this.held;
    const down = event.pageY > y;
    this.shift(0, event.pageY - y);
    // the list is drawn from the bottom up: the first rung is the lowest on the page; a third of a row is enough
    const below = this.rows().filter((row) => row !== item).filter((row) => {
      const box = row.getBoundingClientRect();
      return event.clientY < (down ? box.top + box.height / 3 : box.bottom - box.height / 3);
    });
    this.held.to = below.length === from ? null : below.length;
  },
  release() {
    const held = this.putBack();
    if (held && held.to !== null) this.move(held.from, held.to);
  },
  cancel() { this.putBack(); },
  key(event, by) {
    const from = Number(event.target.dataset.row);
    const to = from + by;
    if (to < 0 || to >= this.rows().length) return;
    this.move(from, to);
  },
  move(from, to) {
    const mover = this.$refs.mover;
    mover.value = `to-${from}-${to}`;
    focusAgain(`.rung-handle[data-row="${to}"]`);
    mover.click();
  },
}));
