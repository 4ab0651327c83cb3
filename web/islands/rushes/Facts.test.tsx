/** What is said and decided of a chosen clip. */
import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it, vi } from 'vitest';
import type { ClipView } from '../../data/views';
import { clipView } from '../../testing/views';
import { Facts } from './Facts';

const still = (more: Partial<ClipView> = {}) =>
  clipView('strip', {
    format: { width: 720, height: 576, layout: 'rgb', depth: 8, chroma: [1, 1] },
    ...{ codec: 'png', tracks: 0, bytes: 1000, encoding: 'srgb', guess: 'srgb', strip: 1 },
    ...{ warnings: [], missing: 0, gaps: null, cutsFound: [], cutsSaid: {}, slots: null },
    ...(more as object),
  } as unknown as Partial<ClipView>);
function show(clip: ClipView, count = 1) {
  const acts = {
    ...{ onChange: vi.fn(), onSamples: vi.fn(), onProgressive: vi.fn() },
    traces: { onName: vi.fn(), onSave: vi.fn(), onBring: vi.fn() },
    ...{ onGaps: vi.fn(), onCuts: vi.fn(), onInOut: vi.fn(), onSplit: vi.fn() },
    ...{ onDouble: vi.fn(), onRemove: vi.fn() },
  };
  render(<Facts clip={clip} count={count} {...acts} />);
  return acts;
}

describe('a sequence that lacks pictures', () => {
  it.each([
    ['hold', 'black', 'black'],
    ['black', 'the picture before held', 'hold'],
  ] as const)('with %s there is offered again with %s', async (gaps, words, wanted) => {
    const { onGaps } = show(still({ gaps }));
    await userEvent.setup().click(screen.getByRole('button', { name: words }));
    expect(onGaps.mock.calls).toEqual([[wanted]]);
  });
  it('is offered so only by itself, and only where it lacks some', () => {
    show(still({ gaps: 'hold' }), 3);
    show(still());
    expect(screen.queryByText(/Bring it in once more/)).toBeNull();
  });
});

it('pixels that are not square: how wide it is shown', () => {
  show(still({ pixelAspect: 64 / 45 }));
  expect(screen.getByText('720×576, shown 1024 wide')).toBeTruthy();
});
it('a trace is renamed where it is listed', async () => {
  const given = {
    kind: 'point',
    follow: true,
    smooth: 0,
    marks: [{ frame: 0, x: 0, y: 0 }],
  } as const;
  const trace = { id: 't', name: 'Sun', ...given, of: '' };
  const { traces } = show(
    still({ traces: [{ ...trace, state: 'done', progress: 1, error: null }] }),
  );
  const user = userEvent.setup(),
    field = screen.getByLabelText('Name of the trace Sun');
  await user.clear(field);
  await user.type(field, 'Lamp{Enter}');
  expect(traces.onName.mock.calls).toEqual([['t', 'Lamp']]);
  expect(screen.getByText('1 mark, followed')).toBeTruthy();
});
it('a trace is saved as a file once it is followed, and a track is brought in', async () => {
  const given = {
    kind: 'point',
    follow: true,
    smooth: 0,
    marks: [{ frame: 0, x: 0, y: 0 }],
    of: '',
  } as const;
  const made = { id: 'a', name: 'Sun', ...given, state: 'done', progress: 1, error: null } as const,
    under = { ...made, id: 'b', name: 'Lamp', state: 'running', progress: 0.4 } as const;
  const { traces } = show(still({ traces: [made, under] }));
  const user = userEvent.setup();
  await user.click(screen.getByRole('button', { name: 'The track of Sun as a file' }));
  expect(traces.onSave.mock.calls).toEqual([[made]]);
  const waiting = screen.getByRole('button', { name: 'The track of Lamp as a file' });
  expect(waiting.hasAttribute('disabled')).toBe(true);
  const file = new File(['{}'], 'path.json');
  await user.upload(screen.getByLabelText('A track for strip'), file);
  expect(traces.onBring.mock.calls).toEqual([[file]]);
});
