/**
 * Service worker of the run sheet and the pick: what was opened once opens again without a line. Bundled to `public/sheet-worker.js`; browsers run it
 * on localhost and https only, elsewhere the page works as long as it stays open.
 */
interface WorkerScope {
  addEventListener(
    type: 'install' | 'activate',
    listener: (event: { waitUntil(work: Promise<unknown>): void }) => void,
  ): void;
  addEventListener(
    type: 'fetch',
    listener: (event: { request: Request; respondWith(answer: Promise<Response>): void }) => void,
  ): void;
  addEventListener(
    type: 'message',
    listener: (event: { data: unknown; waitUntil(work: Promise<unknown>): void }) => void,
  ): void;
  skipWaiting(): Promise<void>;
  clients: { claim(): Promise<void> };
  location: Location;
}
const scope = self as unknown as WorkerScope;

const CACHE = 'aurora-glade-sheet-1';
/** Pages for the field; all others are always the server's. */
const KEPT_PAGES = /^\/sessions\/[\w-]+\/(?:shoot|pick)$|^\/pick$/;
/** A page that takes longer than this is taken from the cache: a weak line is worse than none. */
const PATIENCE_MS = 4000;

scope.addEventListener('install', (event) => event.waitUntil(scope.skipWaiting()));
scope.addEventListener('activate', (event) => event.waitUntil(scope.clients.claim()));

/** What the page had loaded before there was a worker. */
scope.addEventListener('message', (event) => {
  const addresses = (event.data as { keep?: unknown } | null)?.keep;
  if (!Array.isArray(addresses)) return;
  event.waitUntil(
    caches
      .open(CACHE)
      .then((cache) =>
        Promise.all(
          addresses
            .filter((one): one is string => typeof one === 'string' && new URL(one).origin === scope.location.origin)
            .map(async (one) => (await cache.match(one)) ?? cache.add(one).catch(() => undefined)),
        ),
      ),
  );
});

scope.addEventListener('fetch', (event) => {
  const { request } = event;
  const { origin, pathname } = new URL(request.url);
  if (request.method !== 'GET' || origin !== scope.location.origin) return;
  if (request.mode === 'navigate' && KEPT_PAGES.test(pathname)) event.respondWith(newest(request));
  // Built files carry a hash in their names: what was kept is right for ever.
  else if (pathname.startsWith('/_next/static/')) event.respondWith(kept(request));
});

async function kept(request: Request): Promise<Response> {
  const cache = await caches.open(CACHE);
  const known = await cache.match(request);
  if (known) return known;
  const answer = await fetch(request);
  if (answer.ok) await cache.put(request, answer.clone());
  return answer;
}

/** A page from the server, else as it was last. */
async function newest(request: Request): Promise<Response> {
  const cache = await caches.open(CACHE);
  try {
    const answer = await fetch(request, { signal: AbortSignal.timeout(PATIENCE_MS) });
    if (answer.ok) await cache.put(request, answer.clone());
    return answer;
  } catch (error) {
    const known = await cache.match(request);
    if (known) return known;
    throw error;
  }
}
