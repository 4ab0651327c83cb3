// Who may ask: this machine by its own names (or those in WABISABI_HOSTS), and no other site's
// pages.
const LOOPBACK = ['localhost', '127.0.0.1', '[::1]'];
const allowed = () =>
  new Set(
    [
      ...LOOPBACK,
      ...(process.env.WABISABI_HOSTS ?? '').split(',').map((h) => h.trim().toLowerCase()),
    ].filter(Boolean),
  );

/** A host without its port. */
const nameOf = (host) => host.toLowerCase().replace(/:\d+$/, '');

const METHODS = new Set(['GET', 'HEAD', 'POST', 'PUT', 'PATCH', 'DELETE', 'OPTIONS']);
/** The path of an address as text; undefined where it is none. */
function decoded(url) {
  try {
    const path = decodeURIComponent(url.split(/[?#]/)[0]);
    // Backslashes are read as slashes by some.
    return path.includes('\0') ? undefined : path.replaceAll('\\', '/');
  } catch {
    return undefined;
  }
}

/** What is wrong with a request, as status, title and detail; undefined where nothing is. */
export function refusal({ method, headers, url }, hosts = allowed()) {
  const path = decoded(url);
  if (path === undefined)
    return [400, 'Not an address', 'The path of the address cannot be read: check it.'];
  if (!METHODS.has(method)) return [405, 'No such method', `Nothing here answers to ${method}.`];
  // The page framework's own endpoint for pictures of other sites is not used.
  if (/^\/_image(\/|$)/.test(path))
    return [404, 'No such page', 'There is nothing at this address.'];
  const host = headers.host ?? '';
  if (!hosts.has(nameOf(host)))
    return [
      421,
      'Another host',
      'This application does not answer to that name. Open it by its own address, or name the host in WABISABI_HOSTS.',
    ];
  if (['GET', 'HEAD'].includes(method)) return undefined;
  const ANOTHER = [403, 'Another site', 'Only the application itself may change anything.'];
  // Fetch Metadata; programs that are no browser send none.
  if (!['same-origin', 'none', undefined].includes(headers['sec-fetch-site'])) return ANOTHER;
  if (
    headers.origin !== undefined &&
    headers.origin.replace(/^https?:\/\//, '').toLowerCase() !== host.toLowerCase()
  )
    return ANOTHER;
  const hasBody =
    Number(headers['content-length'] ?? 0) > 0 || headers['transfer-encoding'] !== undefined;
  // Files come as they are, by PUT: a browser asks before it sends one to another site.
  if (
    hasBody &&
    method !== 'PUT' &&
    /^\/+api(\/|$)/i.test(path) &&
    !/^application\/json\s*(;|$)/i.test(headers['content-type'] ?? '')
  )
    return [415, 'Not JSON', 'Send JSON, with the content type application/json.'];
  return undefined;
}
