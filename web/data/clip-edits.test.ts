/** Edits of clips: what they replace, and that the reversed edit undoes them. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { ClipEdit } from '../../server/clips/clips';
import { backwards, editOf } from './clip-edits';
import type { ClipView } from './views';

const clip = {
  id: 'c1',
  name: 'gulls',
  encoding: 'bt709',
  sampling: null,
  look: { lookId: 'l', versionId: 'v2', name: 'Silt', number: 2, means: [] },
  follows: true,
  trims: { l: { age: 40 } },
  pins: {},
  balance: null,
  note: '',
  status: 'open',
} as unknown as ClipView;

describe('an edit', () => {
  it('holds what it replaces, of just what it changes', () => {
    expect(editOf(clip, { name: 'birds', note: 'x' })).toEqual({
      clip: 'c1',
      was: { name: 'gulls', note: '' },
      to: { name: 'birds', note: 'x' },
    });
  });

  it('of a look is one of its version', () => {
    expect(editOf(clip, { version: null }).was).toEqual({ version: 'v2' });
    expect(editOf({ ...clip, look: null }, { version: 'v2' }).was).toEqual({ version: null });
  });

  it('of nothing replaces nothing', () => {
    expect(editOf(clip, {})).toEqual({ clip: 'c1', was: {}, to: {} });
  });

  it('turned round twice is itself', () => {
    const part = fc.record({ name: fc.string(), note: fc.string() }, { requiredKeys: [] });
    const edits = fc.array(fc.record({ clip: fc.uuid(), was: part, to: part }));
    fc.assert(
      fc.property(edits, (all) => {
        expect(backwards(backwards(all as ClipEdit[]))).toEqual(all);
        expect(backwards(all as ClipEdit[]).map((e) => e.to)).toEqual(all.map((e) => e.was));
      }),
    );
  });
});
