// Keeps the pages of the dock on the device, so that they open without a connection. What a page shows is as it was when it
// was last read; what is counted is kept by the pages themselves (app/parts/sending.ts).
const CACHE = "wharf-away-1";
const PAGES = /^\/(dock|open-count)(\/\d+)?(\.data)?$/;
const FILES = /^\/(assets\/.+|early\.js|mark\.svg)$/;
/** So long a page that is on the device waits for a slow connection. */
const PATIENCE = 4_000;

self.addEventListener("install", () => self.skipWaiting());
self.addEventListener("activate", (e) => e.waitUntil(self.clients.claim()));

self.addEventListener("message", (e) => {
  if (e.data?.forget) e.waitUntil(caches.delete(CACHE));
  if (Array.isArray(e.data?.keep)) e.waitUntil(keepAll(e.data.keep));
});

self.addEventListener("fetch", (e) => {
  const url = new URL(e.request.url);
  if (e.request.method !== "GET" || url.origin !== location.origin) return;
  if (FILES.test(url.pathname)) e.respondWith(keptFirst(e.request));
  else if (PAGES.test(url.pathname)) e.respondWith(freshFirst(e.request));
});

async function keepAll(urls) {
  const cache = await caches.open(CACHE);
  await Promise.all(
    [...new Set(urls.map((url) => new URL(url, location.origin).href))].map(async (url) => {
      if (FILES.test(new URL(url).pathname) && (await cache.match(url))) return;
      const answer = await fetch(url).catch(() => null);
      if (answer) await put(cache, url, answer);
    }),
  );
}

/**
 * An answer that led elsewhere, such as to sign in, is nobody's page. It is here whole before it takes the place of what is
 * kept: a cache lets go of the old one first, and a connection that breaks halfway would leave none.
 */
async function put(cache, request, answer) {
  if (!answer.ok || answer.redirected) return;
  const { status, statusText, headers } = answer;
  await cache.put(request, new Response(await answer.blob(), { status, statusText, headers }));
}

/** Files are named by what is in them: what is here is right. */
async function keptFirst(request) {
  const cache = await caches.open(CACHE);
  const kept = await cache.match(request, { ignoreVary: true });
  if (kept) return kept;
  const answer = await fetch(request);
  await put(cache, request, answer.clone());
  return answer;
}

async function freshFirst(request) {
  const cache = await caches.open(CACHE);
  const kept = await cache.match(request, { ignoreVary: true });
  const fresh = fetch(request).then(async (answer) => {
    await put(cache, request, answer.clone());
    return answer;
  });
  if (!kept) return fresh.catch(async (fault) => (await otherwise(cache, request)) ?? Promise.reject(fault));
  const late = new Promise((done) => setTimeout(() => done(kept), PATIENCE));
  return Promise.race([fresh.catch(() => kept), late]);
}

/** A page that is not on the device: the open count is, and counts anything. */
const otherwise = (cache, request) => (request.mode === "navigate" ? cache.match("/open-count", { ignoreVary: true }) : undefined);
