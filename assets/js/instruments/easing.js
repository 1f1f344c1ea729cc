// Easier or harder now: from the next repetition on. Mixed into whatever counts sets; each set carries which it was.

/**
 * @typedef {{ easier: boolean, easierBefore: boolean, $root?: any, initEasing(): void, flip(): void }} Easing
 */

/** @type {Easing} */
export const easing = {
  easier: false,
  easierBefore: false, // how the player stands on the rung

  initEasing() { this.easierBefore = this.easier = this.$root.dataset.eased === "yes"; },
  flip() { this.easier = !this.easier; },
};
