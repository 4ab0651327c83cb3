/** Responses of endpoints: validated input, and problems that say what is wrong and what to do. */
import { IsInt, IsString, Max } from 'class-validator';
import type { APIContext } from 'astro';
import { describe, expect, it } from 'vitest';
import { body, endpoint, id, json, notFound, Problem } from './answer';

class Wanted {
  @IsString() name!: string;
  @IsInt() @Max(10) size!: number;
}
const asked = (text: BodyInit, headers: Record<string, string> = {}): Request =>
  new Request('http://127.0.0.1/api', { method: 'POST', body: text, headers });
const context = (request: Request, params: Record<string, string> = {}): APIContext =>
  ({ request, params }) as unknown as APIContext;
const answered = async (e: unknown, request = asked('{}')): Promise<Response> =>
  (await endpoint(() => Promise.reject(e as Error))(context(request))) as Response;

describe('a body', () => {
  it('is an instance of its class', async () => {
    const read = await body(asked('{"name":"a","size":3}'), Wanted);
    expect(read).toBeInstanceOf(Wanted);
    expect(read).toMatchObject({ name: 'a', size: 3 });
  });

  it.each([
    ['{', 400, /not JSON/],
    ['[1]', 400, /JSON object/],
    ['null', 400, /JSON object/],
    ['{"name":1,"size":30}', 422, /name must be a string; size must not be greater than 10/],
    ['{"name":"a","size":3,"more":1}', 422, /more should not exist/],
    [`{"name":${'['.repeat(400)}${']'.repeat(400)},"size":3}`, 422, /deep|nested|levels/i],
  ])('%s is refused with %i', async (text, status, detail) => {
    const refused = await body(asked(text), Wanted).catch((e: unknown) => e as Problem);
    expect(refused).toBeInstanceOf(Problem);
    expect(refused).toMatchObject({ status, detail: expect.stringMatching(detail) });
  });

  it('that says it is too large is not read', async () => {
    const large = asked('{}', { 'content-length': '99000000' });
    await expect(body(large, Wanted)).rejects.toMatchObject({ status: 413 });
    expect(large.bodyUsed).toBe(false);
  });

  it('that turns out too large is given up', async () => {
    const endless = new ReadableStream<Uint8Array>({
      pull: (c) => c.enqueue(new Uint8Array(1_000_000)),
    });
    const request = new Request('http://127.0.0.1/', {
      method: 'POST',
      body: endless,
      duplex: 'half',
    } as RequestInit);
    await expect(body(request, Wanted)).rejects.toMatchObject({ status: 413 });
  });
});

describe('an endpoint', () => {
  it('answers what it gives', async () => {
    const give = endpoint(() => Promise.resolve(json({ a: 1 }, 201)));
    const answer = (await give(context(asked('{}')))) as Response;
    expect([answer.status, await answer.json()]).toEqual([201, { a: 1 }]);
    expect(answer.headers.get('cache-control')).toBe('no-store');
  });

  it('answers problems as RFC 9457 has them, under an id', async () => {
    const answer = await answered(new Problem(409, 'Overtaken', 'Read it again.', { newest: 4 }));
    expect(answer.headers.get('content-type')).toBe('application/problem+json');
    expect(answer.headers.get('x-request-id')).toMatch(/^[0-9a-f-]{36}$/);
    expect(await answer.json()).toEqual({
      type: 'about:blank',
      title: 'Overtaken',
      status: 409,
      detail: 'Read it again.',
      newest: 4,
    });
  });

  it('says that the database is away, and of its own failures nothing that is inside', async () => {
    const away = await answered(Object.assign(new Error('x'), { code: 'ECONNREFUSED' }));
    expect([away.status, ((await away.json()) as { title: string }).title]).toEqual([
      503,
      'The database is away',
    ]);
    const failed = await answered(new Error('password of the database is 1234'));
    expect(failed.status).toBe(500);
    expect(await failed.text()).not.toContain('1234');
  });

  it('answers nobody who has left', async () => {
    const left = new AbortController();
    left.abort();
    const request = new Request('http://127.0.0.1/', { signal: left.signal });
    expect((await answered(new Error('whatever'), request)).status).toBe(499);
  });
});

describe('an id of a path', () => {
  const given = (clip: string): string => id(context(asked('{}'), { clip }), 'clip', 'clip');
  it('is one', () => {
    const is = '01234567-89ab-4cde-8f01-23456789abcd';
    expect(given(is)).toBe(is);
  });
  it.each(['', '1', "1' or 1=1", '../../etc', '01234567-89AB-4CDE-8F01-23456789ABCD'])(
    '%j is none',
    (text) => {
      expect(() => given(text)).toThrow(notFound('clip').detail);
    },
  );
});
