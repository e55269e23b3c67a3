/** The page itself is kept on the device, so that it can be loaded again without a connection. */

/** Keeps what the page is made of; does nothing where the browser, or the page around, does not let it. */
export async function keepPage(): Promise<void> {
  if (!('serviceWorker' in navigator) || window.top !== window) return;
  await navigator.serviceWorker.register('/t-worker.js', { scope: '/t/' });
  const { active } = await navigator.serviceWorker.ready;
  const files = performance.getEntriesByType('resource').map((r) => new URL(r.name));
  active?.postMessage({ keep: files.filter((f) => f.origin === location.origin && f.pathname.startsWith('/assets/')).map((f) => f.pathname) });
}
