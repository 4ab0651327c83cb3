/**
 * Answers of the endpoints: JSON, or problem details (RFC 9457) that say what is wrong and what to
 * do.
 */
import { randomUUID } from 'node:crypto';
import { plainToInstance } from 'class-transformer';
import { validate, type ValidationError } from 'class-validator';
import type { APIContext, APIRoute } from 'astro';
import { beyondBounds, isTooDeep } from '../../core';
import { isAway } from '../../server/database/away';
import { log } from '../../server/config/log';

/** A problem that becomes the endpoint's answer. */
export class Problem extends Error {
  constructor(
    readonly status: number,
    readonly title: string,
    readonly detail: string,
    readonly more: Record<string, unknown> = {},
  ) {
    super(detail);
  }
}
/** The answer for something that does not exist (404). */
export const notFound = (what: string): Problem =>
  new Problem(
    404,
    `No such ${what}`,
    `This ${what} does not exist (any more): go back and choose another.`,
  );

/** A JSON answer. */
export const json = (value: unknown, status = 200): Response =>
  new Response(JSON.stringify(value), {
    status,
    headers: { 'content-type': 'application/json', 'cache-control': 'no-store' },
  });

function problemOf(e: unknown, request: string): Response {
  const p =
    e instanceof Problem
      ? e
      : isAway(e)
        ? new Problem(
            503,
            'The database is away',
            'The database does not answer; nothing was changed. The page goes on by itself when it is back.',
          )
        : new Problem(
            500,
            'The server failed',
            'Something went wrong on the server; nothing was changed. Try again.',
          );
  if (p.status === 500) log.error({ request, err: e }, 'a request failed');
  return new Response(
    JSON.stringify({
      type: 'about:blank',
      title: p.title,
      status: p.status,
      detail: p.detail,
      ...p.more,
    }),
    {
      status: p.status,
      headers: { 'content-type': 'application/problem+json', 'x-request-id': request },
    },
  );
}

/**
 * An endpoint whose thrown problems become answers. Failures are logged with the id that the answer
 * has in `x-request-id`.
 */
export const endpoint =
  (f: (c: APIContext) => Promise<Response>): APIRoute =>
  async (c) => {
    try {
      return await f(c);
    } catch (e) {
      // The client has gone; nobody receives an answer.
      if (c.request.signal.aborted) return new Response(null, { status: 499 });
      return problemOf(e, randomUUID());
    }
  };

/**
 * Largest body in bytes: enough for looks with several tables (4.4 MB for one of 65 entries a
 * side).
 */
const MOST = 24_000_000;

/** The body of a request. Throws as soon as it exceeds the limit. */
async function bounded(request: Request): Promise<Buffer> {
  const tooLarge = new Problem(
    413,
    'Too large',
    `A request holds at most ${MOST / 1e6} MB of JSON.`,
  );
  if (Number(request.headers.get('content-length') ?? 0) > MOST) throw tooLarge;
  const parts: Uint8Array[] = [];
  let length = 0;
  if (request.body)
    for await (const part of request.body as unknown as AsyncIterable<Uint8Array>) {
      length += part.length;
      if (length > MOST) throw tooLarge;
      parts.push(part);
    }
  return Buffer.concat(parts);
}

const TOO_DEEP = 'The request is nested deeper than anything that is read here.';
const MOST_FAULTS = 20;
/** Validation messages at any depth. */
const faultsOf = ({ constraints, children = [], property }: ValidationError): string[] => {
  const own = [...Object.values(constraints ?? {}), ...children.flatMap(faultsOf)];
  return own.length > 0 ? own : [`${property} is not valid`];
};

/** The request's JSON as a validated instance of `Kind`. Throws `Problem`. */
export async function body<T extends object>(request: Request, Kind: new () => T): Promise<T> {
  const bytes = await bounded(request);
  let plain: unknown;
  try {
    const text = bytes.toString('utf8');
    if (isTooDeep(text)) throw new Problem(422, 'Beyond all bounds', TOO_DEEP);
    plain = JSON.parse(text);
  } catch (e) {
    if (e instanceof Problem) throw e;
    throw new Problem(400, 'Not JSON', 'The request is not JSON.');
  }
  const beyond = beyondBounds(plain);
  if (beyond) throw new Problem(422, 'Beyond all bounds', `The request ${beyond}.`);
  if (plain === null || typeof plain !== 'object' || Array.isArray(plain))
    throw new Problem(400, 'Not an object', 'The request must be a JSON object.');
  const value = plainToInstance(Kind, plain);
  const errors = await validate(value, { whitelist: true, forbidNonWhitelisted: true });
  if (errors.length > 0)
    throw new Problem(
      422,
      'Not valid',
      [...new Set(errors.flatMap(faultsOf))].slice(0, MOST_FAULTS).join('; '),
    );
  return value;
}

const UUID = /^[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$/;
/** A path parameter that must be an id. Throws `Problem`. */
export function id(c: APIContext, name: string, what: string): string {
  const v = c.params[name] ?? '';
  if (!UUID.test(v)) throw notFound(what);
  return v;
}
