// A block of the week: dragged to another day, or moved with the arrow keys. The server says what that breaks.
export const weekBoard = () => ({
  held: null,

  days() { return [...this.$root.querySelectorAll(".week-day")]; },
  grab(event) {
    const item = event.target.closest(".week-block");
    this.held = { item, x: event.pageX, y: event.pageY, day: null };
    event.target.setPointerCapture(event.pointerId);
    event.preventDefault();
  },
  drag(event) {
    if (!this.held) return;
    const { item, x, y } = this.held;
    item.style.transform = `translate(${event.pageX - x}px, ${event.pageY - y}px)`;
    item.classList.add("dragged");
    const day = this.days().find((one) => {
      const box = one.getBoundingClientRect();
      return event.clientX >= box.left && event.clientX <= box.right && event.clientY >= box.top && event.clientY <= box.bottom;
    });
    for (const one of this.days()) one.classList.toggle("target", one === day);
    this.held.day = day;
  },
  release(event) {
    const held = this.held;
    this.cancel();
    if (held && held.day && held.day !== held.item.closest(".week-day")) this.move(event.target, held.day);
  },
  cancel() {
    if (this.held) {
      this.held.item.style.transform = "";
      this.held.item.classList.remove("dragged");
    }
    for (const one of this.days()) one.classList.remove("target");
    this.held = null;
  },
  key(event, by) {
    const days = this.days();
    const to = days[days.indexOf(event.target.closest(".week-day")) + by];
    if (to) this.move(event.target, to);
  },
  move(grip, day) {
    const form = grip.closest("form");
    form.elements.on.value = day.dataset.on;
    const block = grip.dataset.block;
    document.body.addEventListener("htmx:afterSettle", () => {
      const again = document.querySelector(`.grip[data-block="${block}"]`);
      if (again) again.focus();
    }, { once: true });
    form.requestSubmit();
  },
});
