// Something carried by its handle. Mixed into a component that says where it may be put down.
export const carrying = {
  held: null,

  take(event, item, more) {
    this.held = { item, x: event.pageX, y: event.pageY, ...more };
    event.target.setPointerCapture(event.pointerId);
    event.preventDefault();
  },
  shift(across, down) {
    this.held.item.style.transform = `translate(${across}px, ${down}px)`;
    this.held.item.classList.add("dragged");
  },
  // back in its place; gives what was held
  putBack() {
    const held = this.held;
    if (held) {
      held.item.style.transform = "";
      held.item.classList.remove("dragged");
    }
    this.held = null;
    return held;
  },
};

// The handle that was used has the focus again when the server's answer stands in its place.
export const focusAgain = (selector) => {
  document.body.addEventListener("htmx:afterSettle", () => document.querySelector(selector)?.focus(), { once: true });
};
