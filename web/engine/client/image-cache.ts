/**
 * Small pictures that pages keep across visits, by name, in the browser's own store; the oldest go
 * first.
 */
const STORE = 'wabisabi-pictures',
  MOST = 800;
const address = (name: string): string => `/kept-picture?${encodeURIComponent(name)}`;
/** None where the browser keeps nothing. */
const store = (): Promise<Cache | null> =>
  typeof caches === 'undefined' ? Promise.resolve(null) : caches.open(STORE).catch(() => null);

export async function cachedImage(name: string): Promise<Blob | null> {
  const found = await (await store())?.match(address(name));
  return found ? found.blob() : null;
}

/** A full store only costs the picture. */
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
