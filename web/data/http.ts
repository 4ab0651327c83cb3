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

/** Calls an endpoint with JSON. Throws `Refused`. */
export async function call<T>(method: string, url: string, value?: unknown): Promise<T> {
  let answer: Response;
  try {
    answer = await fetch(url, {
      method,
      ...(value !== undefined && {
        body: JSON.stringify(value),
        headers: { 'content-type': 'application/json' },
      }),
    });
  } catch {
    throw new Refused(
      0,
      'The server does not answer. What you have done here is kept; try again in a moment.',
    );
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
