/** Files as answers, whole or in part (`Range`, as players request). */
import { createReadStream } from 'node:fs';
import { stat } from 'node:fs/promises';
import { Readable } from 'node:stream';
import { notFound } from './answer';

/**
 * A byte range, both ends included; undefined if none is requested, null if it is not satisfiable.
 */
function rangeOf(asked: string | null, size: number): readonly [number, number] | null | undefined {
  const m = /^bytes=(\d*)-(\d*)$/.exec(asked ?? '');
  if (!m || (m[1] === '' && m[2] === '')) return undefined;
  const first = m[1] === '' ? Math.max(0, size - Number(m[2])) : Number(m[1]),
    last = m[1] === '' || m[2] === '' ? size - 1 : Math.min(size - 1, Number(m[2]));
  return first <= last ? [first, last] : null;
}

/** The header of a download by its name, of any script (RFC 6266, RFC 8187). */
export function attachment(name: string): string {
  const plain = name.replace(/[^\w.-]+/g, '_');
  const encoded = encodeURIComponent(name).replace(
    /['()*]/g,
    (c) => `%${c.charCodeAt(0).toString(16).toUpperCase()}`,
  );
  return `attachment; filename="${plain}"; filename*=UTF-8''${encoded}`;
}

/** A file as the answer to a request. */
export async function fileAnswer(
  request: Request,
  path: string,
  headers: Record<string, string>,
): Promise<Response> {
  const { size } = await stat(path).catch(() => {
    throw notFound('file');
  });
  const range = rangeOf(request.headers.get('range'), size);
  if (range === null)
    return new Response(null, { status: 416, headers: { 'content-range': `bytes */${size}` } });
  const [first, last] = range ?? [0, size - 1];
  const bytes = Readable.toWeb(
    createReadStream(path, { start: first, end: Math.max(first, last) }),
  ) as ReadableStream;
  return new Response(size === 0 ? null : bytes, {
    status: range ? 206 : 200,
    headers: {
      ...headers,
      'accept-ranges': 'bytes',
      'content-length': String(last - first + 1),
      ...(range && { 'content-range': `bytes ${first}-${last}/${size}` }),
    },
  });
}
