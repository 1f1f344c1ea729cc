// A form that comes back with a fault leads there: the part that holds it is opened, and the finger goes on where it was.

/** @param {ParentNode} page */
const leadTo = (page) => {
  const field = page.querySelector(".field.bad");
  if (!field) return;
  for (let part = field.parentElement?.closest("details"); part; part = part.parentElement?.closest("details")) part.open = true;
  const input = /** @type {HTMLElement | null} */ (field.querySelector("input:not([type=hidden]), select, textarea"));
  input?.focus({ preventScroll: true });
  field.scrollIntoView({ block: "center" });
};

export const leadToWrong = () => {
  document.addEventListener("DOMContentLoaded", () => leadTo(document));
  // what a form brings in its own place; a preview while somebody types never takes the focus away
  document.addEventListener("htmx:afterSwap", (event) => {
    const { target, requestConfig } = /** @type {CustomEvent} */ (event).detail;
    if (requestConfig?.triggeringEvent?.type === "submit") leadTo(target);
  });
};
