/** Calls of the endpoints. Rejections become errors with the server's message. */
export class Refused extends Error {
  constructor(
    readonly status: number,
    message: string,
    readonly more: Record<string, unknown> = {},
  ) {
    super(message);
  }
}

/** Whether the server or its database could not be reached, so that the same may be tried again. */
export const isAway = (e: unknown): boolean =>
  e instanceof Refused && (e.status === 0 || e.status === 502 || e.status === 503);

/** Largest body, characters, that browsers send after a page has closed. */
const MOST_KEPT_ALIVE = 30_000;

/**
 * Calls an endpoint with JSON. `lasting`: the request goes on when the page closes, if it is small.
 * Throws `Refused`.
 */
export async function call<T>(
  method: string,
  url: string,
  value?: unknown,
  { lasting = false }: { readonly lasting?: boolean } = {},
): Promise<T> {
  let answer: Response;
  const text = value === undefined ? undefined : JSON.stringify(value);
  try {
    answer = await fetch(url, {
      method,
      ...(lasting && (text?.length ?? 0) < MOST_KEPT_ALIVE && { keepalive: true }),
      ...(text !== undefined && {
        body: text,
        headers: { 'content-type': 'application/json' },
      }),
    });
  } catch {
    throw new Refused(0, 'The server does not answer: try again in a moment.');
  }
  const said = (await answer.json().catch(() => ({}))) as Record<string, unknown>;
  if (!answer.ok)
    throw new Refused(
      answer.status,
      String(said['detail'] ?? `the server answered ${answer.status}`),
      said,
    );
  return said as T;
}

/** Uploads a file and reports progress 0…1. */
export function upload(
  url: string,
  file: Blob,
  onProgress: (share: number) => void,
  signal: AbortSignal,
): Promise<void> {
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest();
    request.open('PUT', url);
    request.upload.onprogress = (e) => {
      if (e.lengthComputable) onProgress(e.loaded / e.total);
    };
    request.onload = () =>
      request.status < 300
        ? resolve()
        : reject(
            new Refused(
              request.status,
              (JSON.parse(request.responseText || '{}') as { detail?: string }).detail ??
                'the upload was refused',
            ),
          );
    request.onerror = () =>
      reject(new Refused(0, 'The upload broke off: the server does not answer.'));
    request.onabort = () => reject(new Refused(0, 'cancelled'));
    signal.addEventListener('abort', () => request.abort());
    request.send(file);
  });
}
