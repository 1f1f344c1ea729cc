// The card is kept for when there is no network: the worker of its pages is set up, and what is linked from the card is
// fetched once, so that it is there from the first visit on.
const PAGES = "card-pages";

const keep = async (address) => {
  const answer = await fetch(address, { headers: { Accept: "text/html" } });
  if (answer.ok && !answer.redirected) await (await caches.open(PAGES)).put(address, answer);
};

export const offline = async () => {
  if (!navigator.serviceWorker || !window.caches || !document.querySelector("[data-card]")) return;
  try {
    await navigator.serviceWorker.register("/card/sw.js");
    await navigator.serviceWorker.ready;
    const links = /** @type {NodeListOf<HTMLAnchorElement>} */ (document.querySelectorAll("a.block-card"));
    await Promise.all([location.pathname, ...[...links].map((link) => link.pathname)].map(keep));
    document.documentElement.dataset.kept = "yes";
  } catch { /* no worker here: the card is a page like any other */ }
};
