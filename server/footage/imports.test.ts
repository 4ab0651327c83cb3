/** Starting an import, and the names of its files. */
import { describe, expect, it } from 'vitest';
import { aProject, useDatabase } from '../testing/database';
import { openImport, queueImport, uploadName } from './imports';

useDatabase();
const NOT_THERE = '00000000-0000-4000-8000-000000000000';

describe('an upload', () => {
  it('is handed to a worker once', async () => {
    const id = await openImport(await aProject(), 'gulls.mp4', ['gulls.mp4']);
    expect(await queueImport(id)).toBe(true);
    expect(await queueImport(id)).toBe(false);
    expect(await queueImport(NOT_THERE)).toBeUndefined();
  });

  it.each([
    ['gulls.MP4', 3, '000003.mp4'],
    ['no ending', 0, '000000'],
    ['../../etc/passwd.d/x.png', 12, '000012.png'],
    ['strange.e/nd', 1, '000001'],
  ])('of %s lies under a name of ours', (name, index, path) => {
    expect(uploadName(name, index)).toBe(path);
  });
});
