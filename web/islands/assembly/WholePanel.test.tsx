/** One look over everything is chosen, is another version later, and is taken off. */
import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { expect, it, vi } from 'vitest';
import { type CutDocument, emptyCut } from '../../../core';
import type { LookView } from '../../data/views';
import { WholePanel } from './WholePanel';

const look = (name: string, ...versions: string[]): LookView => ({
  ...{ id: name, name, removed: [] },
  versions: versions.map((id, i) => ({ id, number: versions.length - i, created: '' })),
});
const looks = [look('Grain', 'g2', 'g1'), look('Empty'), look('Bars', 'b1')];
async function choose(cut: CutDocument, name: string): Promise<CutDocument> {
  const onEdit = vi.fn();
  const { unmount } = render(<WholePanel cut={cut} looks={looks} onEdit={onEdit} />);
  await userEvent.click(screen.getByRole('combobox', { name: 'one look over everything' }));
  await userEvent.click(screen.getByRole('option', { name }));
  const [, change] = onEdit.mock.calls[0] as [string, (c: CutDocument) => CutDocument];
  unmount();
  return change(cut);
}

it('is the newest version of a look, or none', async () => {
  const worn = await choose(emptyCut(), 'Grain v2');
  expect(worn.whole).toEqual({ look: 'g2' });
  expect((await choose(worn, 'none')).whole).toBeUndefined();
});
it('stays at its version until the newest is chosen', async () => {
  const old = { ...emptyCut(), whole: { look: 'g1' } };
  expect((await choose(old, 'Grain v2')).whole).toEqual({ look: 'g2' });
  render(<WholePanel cut={old} looks={looks} onEdit={() => {}} />);
  expect(screen.getByRole('combobox').textContent).toContain('Grain, as it is');
});
