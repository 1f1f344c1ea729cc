// The card without a network: what it is made of is kept when it is first opened, its pages as they were last seen.
import { ExpirationPlugin } from "workbox-expiration";
import { cleanupOutdatedCaches, precacheAndRoute } from "workbox-precaching";
import { registerRoute, setCatchHandler } from "workbox-routing";
import { NetworkFirst } from "workbox-strategies";
import { sendAll } from "./sending.js";

const PAGES = "card-pages";
const DAYS = 14;
const worker = /** @type {any} */ (globalThis);

cleanupOutdatedCaches();
precacheAndRoute(worker.SHELL); // written before this by the server: every file with its hash

const cardOf = (address) => new URL(address).pathname.split("/").slice(0, 3).join("/") + "/";

// a link that was closed shows nothing any more, not even from here
const forget = async (card) => {
  const cache = await caches.open(PAGES);
  const kept = await cache.keys();
  await Promise.all(kept.filter((request) => cardOf(request.url) === card).map((request) => cache.delete(request)));
};

registerRoute(
  ({ request, url }) => request.mode === "navigate" && url.pathname.startsWith("/card/") && !url.pathname.endsWith(".pdf"),
  new NetworkFirst({
    cacheName: PAGES,
    networkTimeoutSeconds: 4,
    matchOptions: { ignoreSearch: true },
    plugins: [
      new ExpirationPlugin({ maxEntries: 80, maxAgeSeconds: DAYS * 24 * 3600, matchOptions: { ignoreSearch: true } }),
      {
        fetchDidSucceed: async ({ request, response }) => {
          if (response.status === 404) await forget(cardOf(request.url));
          return response;
        },
        cacheWillUpdate: async ({ response }) => (response.status === 200 && !response.redirected ? response : null),
      },
    ],
  }),
);

// the hall's page, as it was last seen by whoever is signed in; signing out takes it away
registerRoute(
  ({ request, url }) => request.mode === "navigate" && url.pathname === "/floor/",
  new NetworkFirst({
    cacheName: "floor-pages",
    networkTimeoutSeconds: 4,
    plugins: [{ cacheWillUpdate: async ({ response }) => (response.status === 200 && !response.redirected ? response : null) }],
  }),
);

const NOTHING = `<!DOCTYPE html><html lang="en-GB"><meta charset="utf-8"><meta name="viewport" content="width=device-width">
<title>No network</title><h1>No network just now</h1><p>This page was not opened on this device before. What you did is kept and
sent later. <a href="CARD">Back to the card</a></p></html>`;

setCatchHandler(async ({ request }) => {
  if (request.mode !== "navigate") return Response.error();
  const card = cardOf(request.url);
  const text = NOTHING.replace("CARD", card.replace(/[^\w/-]/g, ""));
  return new Response(text, { status: 503, headers: { "Content-Type": "text/html; charset=utf-8" } });
});

// the browser says that there is a network: what waits goes out, also with no page open
worker.addEventListener("sync", (event) => {
  if (event.tag === "work") event.waitUntil(sendAll().then((reached) => { if (!reached) throw new Error("later"); }));
});

worker.skipWaiting();
worker.addEventListener("activate", (event) => event.waitUntil(worker.clients.claim()));
