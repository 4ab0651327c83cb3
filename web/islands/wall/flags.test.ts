/** Which of a clip's flags count. */
import { expect, it } from 'vitest';
import type { Flag } from '../../../core';
import type { ClipView } from '../../data/views';
import { flaggedWords, isMeant, openFlags } from './flags';

const flag = (kind: Flag['kind'], worst = 0.2): Flag => ({ kind, first: 0, last: 9, worst });
const clip = (flags: readonly Flag[], more: Partial<ClipView> = {}): ClipView =>
  ({
    accepted: {},
    inspection: { flags },
    look: { lookId: 'a', versionId: 'a', name: 'Bars', number: 1, means: ['bare-edge'] },
    ...more,
  }) as unknown as ClipView;

it('what the look means does not count, everything else does', () => {
  const c = clip([flag('bare-edge'), flag('clipped')]);
  expect(isMeant(c, c.inspection!.flags[0]!)).toBe(true);
  expect(openFlags(c).map((f) => f.kind)).toEqual(['clipped']);
  expect(flaggedWords(c)).toBe('clipped');
  expect(openFlags(clip([flag('bare-edge')], { look: null })).length).toBe(1);
});
it('what was accepted counts again once it has grown', () => {
  const accepted = { clipped: { reason: 'the lamp', worst: 0.2 } };
  expect(flaggedWords(clip([flag('clipped', 0.205)], { accepted }))).toBeNull();
  expect(flaggedWords(clip([flag('clipped', 0.3)], { accepted }))).toBe('clipped');
});
