import { describe, expect, it } from 'vitest';
import { reasonOf } from './reason';

describe('why something failed, for a page', () => {
  it('is no statement of the database and no path of the disk', () => {
    const query = new Error(
      `Failed query: insert into "footage" values ($1)\nparams: ${'9,'.repeat(1e5)}`,
    );
    expect(reasonOf(query)).toBe('the database did not take it');
    expect(
      reasonOf(new Error("ENOENT: no such file, open '/var/lib/x/footage/ab/original.mov'")),
    ).toBe("ENOENT: no such file, open 'original.mov'");
  });
  it('is one line of a bearable length', () => {
    expect(reasonOf(new Error(`a\nb`))).toBe('a');
    expect(reasonOf(new Error('x'.repeat(5000))).length).toBeLessThan(260);
    expect(reasonOf('what')).toBe('no reason given');
  });
});
