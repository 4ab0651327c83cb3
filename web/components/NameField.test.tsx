/** Names that are edited in place. */
import { render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { expect, it, vi } from 'vitest';
import { NameField } from './NameField';

it.each([
  ['a new name is taken by Enter', '  Left eye {Enter}', ['Left eye']],
  ['an empty one is put back', '{Enter}', []],
  ['the same one is no change', 'Sun{Enter}', []],
])('%s', async (_, typed, taken) => {
  const onName = vi.fn();
  render(<NameField label="Name of the trace" name="Sun" most={60} onName={onName} />);
  const field = screen.getByLabelText<HTMLInputElement>('Name of the trace'),
    user = userEvent.setup();
  await user.clear(field);
  await user.type(field, typed);
  expect(onName.mock.calls.flat()).toEqual(taken);
  if (taken.length === 0) expect(field.value).toBe('Sun');
});
