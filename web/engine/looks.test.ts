/** Looks between page and worker: each crosses once, and arrives as one and the same object. */
import { describe, expect, it } from 'vitest';
import { emptyLook, type LookDocument, SHIPPED } from '../../core';
import { LooksReceived, LooksSent, type Sent } from './looks';
import type { Request, ToEngine, View } from './protocol';

/** As a message to a worker is: every object anew. */
const crossed = (m: Sent): Sent => structuredClone(m);
const request = (serial: number, ...looks: (LookDocument | null)[]): Request => ({
  kind: 'request',
  serial,
  views: looks.map((look, i): View => ({
    ...{ id: `view ${i}`, clip: 'a', frame: serial, width: 96, height: 54, from: 540, look },
    ...(i === 0 && { against: { clip: 'a', frame: 0, look: looks.at(-1)!, from: 540, gain: 4 } }),
  })),
  ahead: [1, 2, 3],
});
const [first, second] = [SHIPPED[0]!.look, SHIPPED[1]!.look];

describe('looks', () => {
  it('arrive as they were sent, wherever a message has them', () => {
    const [page, worker] = [new LooksSent(), new LooksReceived()];
    const messages: ToEngine[] = [
      request(1, first, null, second),
      {
        kind: 'survey',
        id: 1,
        clip: 'a',
        frames: [0, 4],
        looks: [second, first],
        width: 8,
        height: 8,
      },
      { kind: 'stop-baking' },
    ];
    for (const m of messages) expect(worker.received(crossed(page.sent(m)))).toEqual(m);
  });

  it('cross once, and are one object at the other side', () => {
    const [page, worker] = [new LooksSent(), new LooksReceived()];
    const sent = [1, 2, 3].map((n) => page.sent(request(n, first, first)));
    expect(sent.map((s) => s.looks.length)).toEqual([1, 0, 0]);
    const arrived = sent.map((s) => worker.received(crossed(s)) as Request);
    const looks = arrived.flatMap((r) => r.views.map((v) => v.look));
    expect(new Set(looks).size).toBe(1);
    expect(looks[0]).not.toBe(first);
  });

  it('are dropped at both sides when there are many, the one longest unused first', () => {
    const [page, worker] = [new LooksSent(), new LooksReceived()];
    const go = (n: number, look: LookDocument): Sent => {
      const sent = page.sent(request(n, look));
      worker.received(crossed(sent));
      return sent;
    };
    const many = Array.from({ length: 100 }, (_, i) => emptyLook(`Look ${i}`));
    go(0, first);
    many.forEach((look, i) => {
      go(i, look);
      expect(go(i, first).looks).toEqual([]);
    });
    expect(go(200, many[0]!).looks).toHaveLength(1);
    expect(go(201, many[99]!).looks).toEqual([]);
  });

  it('of one message are all there, however many it has', () => {
    const [page, worker] = [new LooksSent(), new LooksReceived()];
    const many = Array.from({ length: 200 }, (_, i) => emptyLook(`Look ${i}`));
    for (const n of [1, 2]) {
      const m = request(n, ...many);
      expect(worker.received(crossed(page.sent(m)))).toEqual(m);
    }
  });

  it('are sent again to a worker that began anew', () => {
    const page = new LooksSent();
    page.sent(request(1, first));
    page.clear();
    expect(new LooksReceived().received(crossed(page.sent(request(2, first))))).toEqual(
      request(2, first),
    );
  });
});
