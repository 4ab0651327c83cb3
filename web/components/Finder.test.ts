import { describe, expect, it } from 'vitest';
import { type Found, matching } from './Finder';

const of = (id: string, label: string, help: string, group = 'light'): Found => ({
  id,
  label,
  help,
  group,
});
const ALL = [
  of('bloom', 'Bloom', 'Light spreads, wide.'),
  of('glow', 'Glow', 'Brights shine.'),
  of('blur', 'Blur', 'Soft, like a bloom gone wrong.', 'edge'),
];
const ids = (query: string) => matching(ALL, query).map((f) => f.id);

describe('finding by typing', () => {
  it('gives all in their order until something is typed', () =>
    expect(ids(' ')).toEqual(['bloom', 'glow', 'blur']));
  it('puts what is called so before what only speaks of it', () =>
    expect(ids('bloom')).toEqual(['bloom', 'blur']));
  it('wants every word, from name, family or help', () => {
    expect(ids('edge soft')).toEqual(['blur']);
    expect(ids('nothing')).toEqual([]);
  });
});
