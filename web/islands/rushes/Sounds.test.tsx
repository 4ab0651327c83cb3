/** Sounds are heard one at a time, gone to by click and keys, renamed and taken away. */
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { fireEvent, render, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { BEATS_FOUND } from '../../../core';
import type { SoundView } from '../../data/views';
import { Sounds } from './Sounds';

const sound = (id: string, seconds: number): SoundView => ({
  ...{ id, hash: `${id}-hash`, name: id, bytes: 9, codec: 'flac', channels: 2, rate: 48_000 },
  ...{ tracks: 1, samples: 48_000 * seconds, integrated: -20, shortTerm: -18, truePeak: -3 },
  beats: seconds < 4 ? [] : Array.from({ length: 80 }, (_, i) => i * 0.3),
  said: BEATS_FOUND,
});
beforeEach(() => {
  // jsdom plays nothing: what is asked of the element is told, as a browser would.
  vi.spyOn(HTMLMediaElement.prototype, 'play').mockImplementation(function (
    this: HTMLMediaElement,
  ) {
    fireEvent.play(this);
    return Promise.resolve();
  });
  vi.spyOn(HTMLMediaElement.prototype, 'pause').mockImplementation(function (
    this: HTMLMediaElement,
  ) {
    fireEvent.pause(this);
  });
  vi.stubGlobal('fetch', () =>
    Promise.resolve(new Response(new Int16Array([-8000, 8000, -16_000, 30_000]).buffer)),
  );
});
afterEach(() => {
  vi.restoreAllMocks();
  vi.unstubAllGlobals();
});
function show() {
  const acts = { onName: vi.fn(), onBeats: vi.fn(), onRemove: vi.fn(), onTrouble: vi.fn() };
  const { container } = render(
    <QueryClientProvider client={new QueryClient()}>
      <Sounds sounds={[sound('song', 24), sound('wings', 2)]} {...acts} />
    </QueryClientProvider>,
  );
  return { ...acts, player: () => container.querySelector('audio')!, container };
}

it('one is heard at a time', async () => {
  const { player } = show(),
    user = userEvent.setup();
  await user.click(screen.getByRole('button', { name: 'Play song' }));
  expect(player().src).toContain('/api/sound-files/song-hash/samples.flac');
  await user.click(screen.getByRole('button', { name: 'Play wings' }));
  expect(player().src).toContain('wings-hash');
  expect(screen.getByRole('button', { name: 'Play song' })).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'Pause wings' }));
  expect(screen.getByRole('button', { name: 'Play wings' })).toBeTruthy();
});
it('arrows and ends go along it, and the space bar plays from there', async () => {
  const { player } = show(),
    user = userEvent.setup();
  const along = screen.getByRole('slider', { name: 'Where song is heard' });
  along.focus();
  await user.keyboard('{ArrowRight}{ArrowRight}{ArrowLeft}');
  expect(along.getAttribute('aria-valuetext')).toBe('0:01.0 of 0:24.0');
  await user.keyboard('{End}');
  expect(player().currentTime).toBe(24);
  await user.keyboard('{Home}{ArrowLeft} ');
  expect(player().currentTime).toBe(0);
  expect(screen.getByRole('button', { name: 'Pause song' })).toBeTruthy();
});
it('its waveform is drawn, and it is renamed and taken away', async () => {
  const { container, onName, onRemove } = show(),
    user = userEvent.setup();
  await waitFor(() =>
    expect(container.querySelectorAll('svg path[fill="currentColor"]').length).toBe(2),
  );
  const field = screen.getByLabelText('Name of the sound wings');
  await user.clear(field);
  await user.type(field, 'gulls{Enter}');
  expect(onName.mock.calls.map(([s, n]) => [(s as SoundView).id, n])).toEqual([['wings', 'gulls']]);
  await user.click(screen.getByRole('button', { name: 'Take the sound song away' }));
  expect((onRemove.mock.calls[0]![0] as SoundView).id).toBe('song');
});
it('its beats are counted otherwise, and bars begin where it is heard', async () => {
  const { onBeats, container } = show(),
    user = userEvent.setup();
  expect(screen.getByText('200.0 beats a minute')).toBeTruthy();
  expect(screen.queryByRole('group', { name: 'Beats of wings' })).toBeNull();
  expect(container.querySelectorAll('svg path[stroke="currentColor"]').length).toBe(1);
  await user.click(screen.getByLabelText('counted'));
  await user.click(screen.getByRole('option', { name: 'half' }));
  expect(onBeats.mock.calls[0]![1]).toEqual({ counted: 'half', odd: false, bar: 4, begins: 0 });
  screen.getByRole('slider', { name: 'Where song is heard' }).focus();
  await user.keyboard('{ArrowRight}b');
  // A second in: the third beat of 0.3 seconds is the nearest.
  expect(onBeats.mock.calls[1]![1]).toEqual({ ...BEATS_FOUND, begins: 3 });
});
