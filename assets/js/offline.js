// The card is kept for when there is no network: the worker of its pages is set up, and what is linked from the card is
// fetched once, so that it is there from the first visit on.
const PAGES = "card-pages";

const keep = async (address) => {
  const answer = await fetch(address, { headers: { Accept: "text/html" } });
  if (answer.ok && !answer.redirected) await (await caches.open(PAGES)).put(address, answer);
};

// a block's page that was kept today is not fetched again with every look at the card
const isOfToday = async (address) => {
  const kept = await (await caches.open(PAGES)).match(address, { ignoreSearch: true });
  const at = kept && kept.headers.get("Date");
  return Boolean(at) && new Date(at).toDateString() === new Date().toDateString();
};

export const offline = async () => {
  if (!navigator.serviceWorker || !window.caches || !document.querySelector("[data-card]")) return;
  const byWorker = navigator.serviceWorker.controller !== null; // then it has kept this page already
  try {
    await navigator.serviceWorker.register("/card/sw.js");
    await navigator.serviceWorker.ready;
    if (!byWorker) await keep(location.pathname);
    const links = /** @type {NodeListOf<HTMLAnchorElement>} */ (document.querySelectorAll("a.block-card"));
    const pages = new Set([...links].flatMap((link) => [link.pathname, link.dataset.url ?? link.pathname]));
    await Promise.all([...pages].map(async (address) => { if (!(await isOfToday(address))) await keep(address); }));
    document.documentElement.dataset.kept = "yes";
  } catch { /* no worker here: the card is a page like any other */ }
};
