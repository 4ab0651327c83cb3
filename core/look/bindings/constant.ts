import { unsuited } from '../../parameters';
import { binding, object } from './declare';

/** A constant value. */
export const constant = binding<'value'>({
  id: 'value',
  schemas: (_, value) => [object({ value })],
  faults(s, p, path) {
    const message = unsuited(p, s.value);
    return message ? [{ path, message }] : [];
  },
  resolve: (s) => s.value,
  pruned: (s) => s,
});
