// Who works with the keyboard stays where they were: what a swap takes away gives its focus to what came in its place.

const HEAD = "h1, h2, h3";

/** What tells a place again after its swap. @param {Element} held */
const marks = (held) => {
  const given = (/** @type {string} */ name) => held.getAttribute(name);
  const found = [];
  if (held.id) found.push(`#${CSS.escape(held.id)}`);
  for (const name of ["data-keeps", "aria-label", "href"]) {
    const value = given(name);
    if (value) found.push(`${held.localName}[${name}="${CSS.escape(value)}"]`);
  }
  const name = given("name");
  const value = held.matches("button, [type=radio], [type=checkbox]") ? given("value") : null;
  if (name && value) found.push(`[name="${CSS.escape(name)}"][value="${CSS.escape(value)}"]`);
  else if (name) found.push(`[name="${CSS.escape(name)}"]`);
  return found;
};

/** The heading of what came can hold the focus, so that a reader says what stands there now. @param {Element} target */
const headOf = (target) => {
  const head = /** @type {HTMLElement | null} */ (target.querySelector(HEAD));
  if (head && !head.hasAttribute("tabindex")) head.tabIndex = -1;
  return head;
};

export const keepFocus = () => {
  /** @type {{ found: string[], moves: boolean } | null} */
  let held = null;
  document.addEventListener("htmx:beforeSwap", (event) => {
    const { target, requestConfig } = /** @type {CustomEvent} */ (event).detail;
    const on = document.activeElement;
    // a decision brings another matter: there nothing is pressed twice by one key
    const moves = requestConfig?.triggeringEvent?.type === "submit";
    held = on && on !== document.body && target.contains(on) ? { found: moves ? [] : marks(on), moves } : null;
  });
  document.addEventListener("htmx:afterSettle", (event) => {
    const lost = document.activeElement === null || document.activeElement === document.body;
    const target = /** @type {CustomEvent} */ (event).detail.target;
    const was = held;
    held = null;
    if (!was || !lost) return;
    const came = target.isConnected ? target : document.getElementById(target.id);
    const same = was.found.map((one) => came?.querySelector(one)).find(Boolean);
    /** @type {HTMLElement | null} */ (same ?? (came && headOf(came)))?.focus({ preventScroll: !was.moves });
  });
};
