// Learners' pages open without a connection: the page and what it is made of are kept on the device. Answers are kept by the page itself.
const KEPT = 'learners';
const SHELL = '/t/';

self.addEventListener('install', () => self.skipWaiting());
self.addEventListener('activate', (e) => e.waitUntil(self.clients.claim()));

// what the page that is open now is made of; what an older one was made of goes
self.addEventListener('message', (e) => {
  const files = Array.isArray(e.data?.keep) ? e.data.keep : [];
  e.waitUntil(
    caches.open(KEPT).then(async (kept) => {
      const wanted = new Set([SHELL, ...files].map((f) => new URL(f, location.origin).href));
      for (const request of await kept.keys()) if (!wanted.has(request.url)) await kept.delete(request);
      for (const url of wanted) {
        if (url !== new URL(SHELL, location.origin).href && (await kept.match(url))) continue;
        const found = await fetch(url);
        if (found.ok) await kept.put(url, found);
      }
    }),
  );
});

self.addEventListener('fetch', (e) => {
  const { request } = e;
  const url = new URL(request.url);
  if (request.method !== 'GET' || url.origin !== location.origin || url.pathname.startsWith('/api/')) return;
  // files have names by what is in them; pages are the newest that can be had
  if (url.pathname.startsWith('/assets/')) e.respondWith(caches.match(request).then((kept) => kept ?? fetch(request)));
  else if (request.mode === 'navigate')
    e.respondWith(fetch(request).catch(async () => (await caches.match(SHELL)) ?? Response.error()));
});
