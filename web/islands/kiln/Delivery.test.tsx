/** A delivered file says how large and how loud it is. */
import { render, screen } from '@testing-library/react';
import { expect, it } from 'vitest';
import type { DeliveryView, ItemView } from '../../data/views';
import { Delivery } from './Delivery';

const item = (clipName: string, loudness: ItemView['loudness']): ItemView => ({
  ...{ id: clipName, hash: 'h', clipName, lookName: null, state: 'done', frames: 80 },
  ...{ rendered: 80, retimed: false, first: 0, rate: [25, 1], leftOut: null, error: null },
  ...{ bytes: 2_000_000, joining: false, started: null },
  loudness,
});
it.each([
  [{ integrated: -19.72, shortTerm: -18.1, truePeak: -4.9 }, '−19.7 LUFS'],
  [{ integrated: null, shortTerm: -22, truePeak: -3.94 }, 'peak −3.9 dBTP'],
  [{ integrated: null, shortTerm: null, truePeak: null }, 'silent'],
])('%o is shown as %s', (loudness, words) => {
  const delivery: DeliveryView = {
    ...{ id: 'd', format: 'mkv', width: 160, height: 90, coverage: false, created: '' },
    items: [item('van', loudness), item('gulls', null)],
  };
  render(<Delivery delivery={delivery} playing={null} onPlay={() => {}} attempt={() => {}} />);
  expect(screen.getByText(words)).toBeTruthy();
  expect(screen.getAllByText(/LUFS|dBTP|silent/)).toHaveLength(1);
});
