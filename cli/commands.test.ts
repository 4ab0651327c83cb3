/** What the commands print: their lists, and their errors about unknown words. */
import { describe, expect, it } from 'vitest';
import { SHIPPED } from '../core';
import { cli } from './testing';

describe('the command line', () => {
  it.each([[], ['help'], ['--help']])('lists its commands for %j', async (...words: string[]) => {
    const { code, out, err } = await cli(...words);
    expect([code, err]).toEqual([0, '']);
    for (const name of ['render', 'bake-lut', 'inspect', 'steps', 'looks', 'probe'])
      expect(out).toContain(name);
  });

  it('says what a command takes', async () => {
    const { code, out } = await cli('render', '--help');
    expect(code).toBe(0);
    for (const option of ['--look <name>', '--in <footage>', '--out <place>', '--pin <name=place>'])
      expect(out).toContain(option);
  });

  it.each([
    [['sparkle'], /unknown command 'sparkle'/],
    [['render', 'clip.mov'], /too many arguments/],
    [['render', '--frames'], /argument missing/],
    [['steps', '--jsn'], /unknown option '--jsn'.*--json/],
    [['probe'], /--in is missing/],
    [['render', '--look', 'silt', '--look', 'brine', '--in', 'x'], /--look is given 2 times/],
    [['bake-lut', '--look', 'silt', '--out', 'x.png'], /--out must end in .cube/],
  ])('answers %j in one line with code 2', async (words, message) => {
    const { code, out, err } = await cli(...words);
    expect([code, out]).toEqual([2, '']);
    expect(err).toMatch(message);
    expect(err.trim().split('\n')).toHaveLength(1);
  });

  it('lists the looks, in words and as JSON', async () => {
    const words = (await cli('looks')).out.trim().split('\n');
    expect(words).toHaveLength(SHIPPED.length);
    const json = JSON.parse((await cli('looks', '--json')).out) as { id: string }[];
    expect(json.map((l) => l.id)).toEqual(SHIPPED.map((s) => s.id));
  });
});
