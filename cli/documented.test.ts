/** What the documents show is what happens. */
import { execFileSync } from 'node:child_process';
import { readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { describe, expect, it } from 'vitest';
import { cli } from './testing';

const ROOT = resolve(import.meta.dirname, '..');
const read = (name: string): string => readFileSync(join(ROOT, name), 'utf8');

describe('the documents', () => {
  it('show a script of the core that prints what they say', () => {
    const page = read('docs/core-from-a-script.md');
    const [, script] = /```ts\n([\s\S]*?)```/.exec(page)!,
      [, printed] = /```\n([\s\S]*?)```/.exec(page.slice(page.indexOf('It prints')))!;
    // Beside `core`, as its imports are written.
    const file = join(ROOT, `.core-from-a-script-${process.pid}.ts`);
    writeFileSync(file, script!);
    try {
      const out = execFileSync(process.execPath, ['--import', 'tsx', file], { cwd: ROOT });
      expect(out.toString()).toBe(printed);
    } finally {
      rmSync(file);
    }
  });

  it('show what the command line prints', async () => {
    const shown = /```\n(\$ [\s\S]*?)```/.exec(read('README.md'))![1]!.trim().split('\n');
    const said = await cli('probe', '--in', join(ROOT, 'demo/footage/gulls.mp4'));
    expect(shown[0]).toContain('probe --in demo/footage/gulls.mp4');
    expect(said.out.trim()).toBe(shown[1]);
  });

  it('name all options and commands by words that there are', async () => {
    const known = [
      ...[
        'render',
        'trace',
        'cut-out',
        'inspect',
        'bake-lut',
        'probe',
        'loudness',
        'beats',
        'steps',
        'looks',
      ],
    ];
    const help = (await Promise.all(known.map((c) => cli(c, '--help')))).map((a) => a.out).join();
    const pages = read('docs/command-line.md') + read('README.md');
    for (const [, command] of pages.matchAll(/npm run -s cli -- ([\w-]+)/g))
      expect([...known, 'help']).toContain(command);
    for (const [, option] of pages.matchAll(/[ `](--[a-z][a-z-]+)/g))
      expect(help).toContain(option);
  });
});
