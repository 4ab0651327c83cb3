/** Setting pins on the Wall: clip after clip, one for all, and plates dealt out. */
import { render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { describe, expect, it, vi } from 'vitest';
import type { PinAsk } from '../../../core';
import type { ClipView } from '../../data/views';
import { asking, clipView, projectView, quietEngine } from '../../testing/views';
import { type Pinning, PinsPanel } from './PinsPanel';

const view: PinAsk = { key: 'view', label: 'View', kind: 'footage', many: false },
  strike: PinAsk = { key: 'strike', label: 'Strike', kind: 'cue', many: false };
const plates = ['sea', 'dune', 'reeds'].map((n) => clipView(n, { role: 'plate' }));
const hashOf = (name: string): string => `hash of ${name}`;

function show(clips: readonly ClipView[], look = asking(view, strike), begin?: Pinning) {
  const onPins = vi.fn();
  function Panel() {
    const [pinning, setPinning] = useState<Pinning | null>(begin ?? null);
    return (
      <PinsPanel
        engine={quietEngine}
        project={projectView(clips, plates)}
        clips={clips}
        documentOf={() => look}
        pinning={pinning}
        onPinning={setPinning}
        onPins={onPins}
        onClose={() => undefined}
      />
    );
  }
  render(<Panel />);
  return onPins;
}
/** Which file each clip was given in the only act. */
const given = (onPins: ReturnType<typeof show>) => {
  expect(onPins).toHaveBeenCalledTimes(1);
  const [of, name] = onPins.mock.calls[0] as [
    { clip: ClipView; pins: Record<string, { hash: string }[]> }[],
    string,
  ];
  return { name, files: of.map(({ clip, pins }) => [clip.name, pins['view']![0]!.hash]) };
};

describe('the pins of six clips', () => {
  const clips = ['a', 'b', 'c', 'd', 'e', 'f'].map((n) => clipView(n));

  it('are dealt three plates in turn, in one act', async () => {
    const onPins = show(clips),
      all = screen.getByRole('region', { name: 'View for all' }),
      user = userEvent.setup();
    for (const name of ['sea', 'dune', 'reeds'])
      await user.click(within(all).getByRole('button', { name }));
    await user.click(within(all).getByRole('button', { name: 'deal out to 6 clips' }));
    const { name, files } = given(onPins);
    expect(name).toBe('deal out View');
    expect(files).toEqual([
      ['a', hashOf('sea')],
      ['b', hashOf('dune')],
      ['c', hashOf('reeds')],
      ['d', hashOf('sea')],
      ['e', hashOf('dune')],
      ['f', hashOf('reeds')],
    ]);
    // The choice is used up: the next act begins anew.
    expect(within(all).getByRole('button', { name: /set for/ })).toHaveProperty('disabled', true);
  });

  it('are set to one plate, in one act', async () => {
    const onPins = show(clips),
      all = screen.getByRole('region', { name: 'View for all' }),
      user = userEvent.setup();
    await user.click(within(all).getByRole('button', { name: 'dune' }));
    await user.click(within(all).getByRole('button', { name: 'set for 6 clips' }));
    expect(given(onPins).files.map(([, file]) => file)).toEqual(clips.map(() => hashOf('dune')));
  });

  it('are listed by clip, or by pin', async () => {
    show(clips.slice(0, 2));
    const rows = () => screen.getAllByRole('listitem').map((r) => r.getAttribute('data-pin') ?? '');
    expect(rows()).toEqual(['a view', 'a strike', 'b view', 'b strike']);
    const user = userEvent.setup();
    await user.click(screen.getByLabelText('Order of the pins'));
    await user.click(screen.getByRole('option', { name: 'by pin' }));
    expect(rows()).toEqual(['a view', 'b view', 'a strike', 'b strike']);
  });

  it('say how many are not set', () => {
    show([clipView('a', { pins: { strike: [{ frame: 3 }] } }), clipView('b')], asking(strike));
    expect(screen.getByText('1 of 2 not set')).toBeTruthy();
    expect(screen.queryByRole('region', { name: /for all/ })).toBeNull();
  });
});

describe('what one clip has said', () => {
  it('is given to the others, with its start and framing', async () => {
    const said = { hash: hashOf('sea'), start: 12, speed: 0.5, fit: 'fill' as const };
    const clips = [clipView('a', { pins: { view: [said] } }), clipView('b'), clipView('c')];
    const onPins = show(clips, asking(view), { clip: 'a', pin: 'view', frame: 0 });
    await userEvent
      .setup()
      .click(screen.getByRole('button', { name: 'the same for the 2 other clips' }));
    const [of] = onPins.mock.calls[0] as [{ clip: ClipView; pins: Record<string, unknown> }[]];
    expect(of.map(({ clip, pins }) => [clip.name, pins['view']])).toEqual(
      clips.map((c) => [c.name, [said]]),
    );
  });
});
