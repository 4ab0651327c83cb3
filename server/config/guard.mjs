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

/** What is wrong with a request, as status, title and detail; undefined where nothing is. */
export function refusal({ method, headers, url }, hosts = allowed()) {
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
    url.startsWith('/api/') &&
    !/^application\/json\s*(;|$)/i.test(headers['content-type'] ?? '')
  )
    return [415, 'Not JSON', 'Send JSON, with the content type application/json.'];
  return undefined;
}
