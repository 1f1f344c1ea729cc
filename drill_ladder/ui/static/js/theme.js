// Runs before the page is painted, so that the evening theme does not flash white.
(() => {
  const wanted = localStorage.getItem("theme");
  const dark = wanted ? wanted === "dark" : matchMedia("(prefers-color-scheme: dark)").matches;
  document.documentElement.dataset.theme = dark ? "dark" : "light";
})();
