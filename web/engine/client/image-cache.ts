/**
 * Small pictures cached across visits in the browser's Cache storage; the oldest are removed first.
 */
const STORE = 'wabisabi-pictures',
  MOST = 800;
const address = (name: string): string => `/kept-picture?${encodeURIComponent(name)}`;
/** Null if the browser has no such storage. */
const store = (): Promise<Cache | null> =>
  typeof caches === 'undefined' ? Promise.resolve(null) : caches.open(STORE).catch(() => null);

/** A cached picture; null if there is none. */
export async function cachedImage(name: string): Promise<Blob | null> {
  const found = await (await store())?.match(address(name));
  return found ? found.blob() : null;
}

/** Caches a picture; a full store is ignored. */
export async function cacheImage(name: string, image: Blob): Promise<void> {
  try {
    const all = await store();
    if (!all) return;
    await all.put(address(name), new Response(image));
    const keys = await all.keys();
    await Promise.all(keys.slice(0, Math.max(0, keys.length - MOST)).map((k) => all.delete(k)));
  } catch {
    /* it is made again on the next visit */
  }
}
