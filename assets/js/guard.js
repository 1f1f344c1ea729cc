// What is typed and not stored yet is not lost by a wrong touch: the browser asks before it leaves the page.
let unsaved = false;

export const typed = () => { unsaved = true; };
/** @param {Event} event @param {string} where */
const inside = (event, where) => /** @type {Element} */ (event.target).closest(where);
const stored = () => { unsaved = false; };

export const watch = () => {
  // a form that came back with something wrong holds what was typed before
  if (document.querySelector("form[data-guard] :is(.wrong, .error-box)")) typed();
  document.addEventListener("input", (event) => { if (inside(event, "form[data-guard]")) typed(); });
  // sent as a whole; what htmx sends is prevented here, and stays on the page
  document.addEventListener("submit", (event) => { if (!event.defaultPrevented) stored(); });
  document.addEventListener("htmx:beforeOnLoad", (event) => {
    const { detail } = /** @type {CustomEvent} */ (event);
    if (detail.xhr.getResponseHeader("HX-Redirect")) stored();
  });
  document.addEventListener("click", (event) => { if (inside(event, "[data-leave]")) stored(); });
  window.addEventListener("beforeunload", (event) => { if (unsaved) event.preventDefault(); });
};
