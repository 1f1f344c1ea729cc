// A block of the week: dragged to another day, or moved with the arrow keys. The server says what that breaks.
import { component } from "./component.js";
import { carrying, focusAgain } from "./carry.js";

export const weekBoard = component(() => ({
  ...carrying,

  days() { return [...this.$root.querySelectorAll(".week-day")]; },
  grab(event) { this.take(event, event.target.closest(".week-block"), { day: null }); },
  drag(event) {
    if (!this.held) return;
    this.shift(event.pageX - this.held.x, event.pageY - this.held.y);
    const day = this.days().find((one) => {
      const box = one.getBoundingClientRect();
      return event.clientX >= box.left && event.clientX <= box.right && event.clientY >= box.top && event.clientY <= box.bottom;
    });
    for (const one of this.days()) one.classList.toggle("target", one === day);
    this.held.day = day;
  },
  release(event) {
    const held = this.cancel();
    if (held && held.day && held.day !== held.item.closest(".week-day")) this.move(event.target, held.day);
  },
  cancel() {
    for (const one of this.days()) one.classList.remove("target");
    return this.putBack();
  },
  key(event, by) {
    const days = this.days();
    const to = days[days.indexOf(event.target.closest(".week-day")) + by];
    if (to) this.move(event.target, to);
  },
  move(grip, day) {
    const form = grip.closest("form");
    form.elements.on.value = day.dataset.on;
    focusAgain(`.grip[data-block="${grip.dataset.block}"]`);
    form.requestSubmit();
  },
}));
