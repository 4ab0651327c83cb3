/** When a pin's place is taken: on every frame, or once. */
import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { expect, it, vi } from 'vitest';
import type { PinSetting } from '../../../../core';
import { ByPin } from './ByPin';

const SHAPE = [0.5, 0.5, 30, 40, 0] as const;
const choose = async (setting: PinSetting, words: string) => {
  const onSetting = vi.fn();
  render(
    <ByPin setting={setting} label="Centre" pin="Sun" onSetting={onSetting} onEnd={() => {}} />,
  );
  expect(screen.getByText('where each clip sets Sun')).toBeTruthy();
  const user = userEvent.setup();
  await user.click(screen.getByLabelText('When the place of Centre is taken'));
  await user.click(screen.getByRole('option', { name: words }));
  return onSetting.mock.calls;
};

it('is taken once, and the shape stays', async () => {
  expect(await choose({ pin: 'sun', shape: SHAPE }, 'once, at its middle')).toEqual([
    [{ pin: 'sun', shape: SHAPE, once: 'middle' }],
  ]);
});
it('is taken on every frame again', async () => {
  expect(await choose({ pin: 'sun', once: 'end' }, 'on every frame')).toEqual([[{ pin: 'sun' }]]);
});
