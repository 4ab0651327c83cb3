import { afterEach, describe, expect, it, vi } from 'vitest';
import { mostBaked, mostPixels, settings, settled } from './settings';

afterEach(() => vi.unstubAllEnvs());

describe('settings', () => {
  it('have defaults for all but the database', () => {
    vi.stubEnv('WABISABI_DATABASE', '');
    expect(() => settings()).toThrow(/WABISABI_DATABASE is not set: start the application/);
    expect([mostPixels(), mostBaked()]).toEqual([8192 * 8192, 20 * 2 ** 30]);
  });

  it('lie below the checkout unless said otherwise', () => {
    vi.stubEnv('WABISABI_DATABASE', 'postgres://x');
    vi.stubEnv('WABISABI_ROOT', '/srv/w');
    vi.stubEnv('WABISABI_DATA', 'elsewhere');
    expect(settings()).toEqual({
      root: '/srv/w',
      data: '/srv/w/elsewhere',
      database: 'postgres://x',
    });
  });

  it.each([
    ['WABISABI_MOST_PIXELS', 'many'],
    ['WABISABI_LOG', 'loud'],
  ])('refuse %s=%s by its name', (name, value) => {
    vi.stubEnv(name, value);
    expect(() => settled()).toThrow(new RegExp(`^the environment cannot be used: ${name}`));
  });
});
