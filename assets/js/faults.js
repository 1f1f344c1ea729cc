// A long form that came back with faults shows the first of them, and counts them beside its button.
export const showFaults = () => {
  const bar = document.querySelector(".save-bar");
  /** @type {NodeListOf<HTMLElement>} */
  const found = document.querySelectorAll('form [aria-invalid="true"]:not([type="hidden"])');
  const wrong = bar ? [...found] : [];
  if (!wrong.length) return;
  for (let around = wrong[0].closest("details"); around; around = around.parentElement.closest("details")) around.open = true;
  wrong[0].scrollIntoView({ block: "center" });
  wrong[0].focus({ preventScroll: true });
  const told = document.createElement("strong");
  told.setAttribute("role", "status");
  told.textContent = wrong.length === 1 ? "One thing to mend" : `${wrong.length} things to mend`;
  bar.append(told);
};

export const watchFaults = () => {
  showFaults();
  // saved in place: only what was refused shows its faults, a step while building does not
  document.addEventListener("htmx:afterSettle", (event) => {
    if (/** @type {CustomEvent} */ (event).detail.xhr?.status === 422) showFaults();
  });
};
