import { describe, expect, it } from 'vitest';
import { inTurn, myTurn, TURNS } from './turns';

const held = () => {
  let end = (): void => {};
  const ended = new Promise<void>((r) => (end = r));
  return { ended, end };
};

describe('turns within a worker', () => {
  it('stand back for all that is more urgent, and for nothing else', async () => {
    for (const [i, urgent] of TURNS.entries()) {
      const { ended, end } = held();
      const running = inTurn(urgent, () => ended);
      for (const [j, turn] of TURNS.entries()) {
        const began = performance.now();
        await myTurn(turn, 120);
        const waited = performance.now() - began > 100;
        expect([urgent, turn, waited]).toEqual([urgent, turn, j > i]);
      }
      end();
      await running;
    }
  });

  it('come as soon as what is more urgent has ended, also badly', async () => {
    const { ended, end } = held();
    const failing = inTurn('person', () => ended.then(() => Promise.reject(new Error('x')))).catch(
      () => 'failed',
    );
    const order: string[] = [];
    const background = myTurn('background').then(() => order.push('background'));
    order.push('person');
    end();
    expect(await failing).toBe('failed');
    await background;
    expect(order).toEqual(['person', 'background']);
  });
});
