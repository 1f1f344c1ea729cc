// The feed of a rung, from gentle to hard: told, chosen, and tagged on each set.

/** @typedef {{ feed: string, $root?: any, initFeed(): void, useFeed(name: string): void, isFeed(name: string): boolean }} Fed */

/** @type {Fed} */
export const fed = {
  feed: "", // its name, empty where the rung has none of its own

  initFeed() { this.feed = this.$root.dataset.feed ?? ""; },
  useFeed(name) { this.feed = name; },
  isFeed(name) { return this.feed === name; },
};
