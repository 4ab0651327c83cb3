/** Everything about a place is typed, switched and chosen; what is missing is said. */
import { fireEvent, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { expect, it, vi } from 'vitest';
import {
  allPlaces,
  type CutClip,
  type CutDocument,
  cutting,
  decided,
  emptyCut,
  shownOf,
} from '../../../core';
import { PlacePanel } from './PlacePanel';

const ID = '00000000-0000-4000-8000-00000000000';
const clip = (id: string): CutClip => ({
  ...shownOf(decided()),
  ...{ id, name: id, hash: id, rate: [25, 1], frames: 80, cuts: [], look: null },
});
const clips: Record<string, CutClip> = { [`${ID}1`]: clip(`${ID}1`), [`${ID}2`]: clip(`${ID}2`) };
const known: cutting.Known = { rate: [25, 1], clip: (id) => clips[id] };
const twoPlaces = (): CutDocument =>
  cutting.placed(emptyCut(), 'row', 0, [
    { clip: `${ID}1`, in: 0, frames: 40 },
    { clip: `${ID}2`, in: 3, frames: 40 },
  ]);

function show(chosen: string, hasSound = true) {
  const onSay = vi.fn(),
    names: string[] = [];
  let now = twoPlaces();
  function Holder() {
    const [cut, setCut] = useState(now);
    now = cut;
    return (
      <PlacePanel
        cut={cut}
        place={cutting.placeOf(cut, chosen)!}
        clip={clips[`${ID}2`]}
        name="gulls"
        look="Late Gold v1"
        known={known}
        hasSound={hasSound}
        bench="/bench"
        onEdit={(name, change) => {
          names.push(name);
          setCut(change);
        }}
        onEnd={() => {}}
        onSay={onSay}
      />
    );
  }
  render(<Holder />);
  return { cut: () => now, place: () => cutting.placeOf(now, chosen)!, names, onSay };
}
function type(label: string, text: string): void {
  const field = screen.getByLabelText(`${label}, typed`);
  fireEvent.focus(field);
  fireEvent.change(field, { target: { value: text } });
  fireEvent.blur(field);
}

it('is typed in frames, within the footage', () => {
  const { place } = show('place-2');
  type('begins at', '52');
  expect(place().at).toBe(52);
  type('lasts', '500');
  expect(place().frames).toBe(77);
  type('from its frame', '1');
  expect(place().in).toBe(1);
});
it('has a speed of its own, forwards or backwards', async () => {
  const { place } = show('place-2');
  type('speed', '50');
  expect(place().retime).toMatchObject({ backwards: false, places: [{ frame: 0, speed: 50 }] });
  await userEvent.click(screen.getByLabelText('backwards'));
  expect(place().retime).toMatchObject({ backwards: true, places: [{ speed: 50 }] });
});
it('has its own sound switched on, where it has one', async () => {
  const { place } = show('place-2');
  await userEvent.click(screen.getByLabelText('its own sound'));
  expect(place().sound).toEqual({ level: 0 });
  type('level of its own sound', '-6');
  expect(place().sound).toEqual({ level: -6 });
});
it('has none to switch on where the clip is silent', () => {
  show('place-2', false);
  expect(screen.getByLabelText('its own sound')).toHaveProperty('disabled', true);
});
it('comes in by a transition, which says what footage is missing and has dials', async () => {
  const { place, cut, names, onSay } = show('place-2');
  await userEvent.click(screen.getByRole('combobox', { name: 'transition' }));
  await userEvent.click(screen.getByRole('option', { name: 'Wipe' }));
  expect(place().enters).toEqual({ look: 'wipe' });
  expect(names.at(-1)).toBe('transition: wipe');
  // Half of twelve frames each, of which the second has but three before its in.
  expect(allPlaces(cut()).map((p) => [p.at, p.frames])).toEqual([
    [0, 46],
    [37, 43],
  ]);
  expect(onSay).toHaveBeenLastCalledWith(
    'Shorter than asked for: the footage lacks 3 before what comes.',
  );
  type('Angle', '45');
  expect(place().enters).toEqual({ look: 'wipe', dials: { angle: 45 } });
  await userEvent.click(screen.getByRole('combobox', { name: 'transition' }));
  await userEvent.click(screen.getByRole('option', { name: 'covering what was there' }));
  expect(place().enters).toBeUndefined();
});
it('offers no transition to the first of a row', () => {
  show('place-1');
  expect(screen.getByRole('combobox', { name: 'transition' })).toHaveProperty('disabled', true);
});
