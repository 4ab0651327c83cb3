/**
 * Outlines of the shipped typefaces for lettering, from their packages: `npx tsx scripts/glyphs.ts`
 * writes core/steps/fill/glyphs.json.
 */
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import opentype from 'opentype.js';

const FACES = {
  words: '@fontsource/instrument-sans/files/instrument-sans-latin-600-normal.woff',
  numbers: '@fontsource/martian-mono/files/martian-mono-latin-500-normal.woff',
};
/** Printable Latin-1, and marks that text is set with. */
const LETTERS = [
  ...Array.from({ length: 95 }, (_, i) => String.fromCharCode(32 + i)),
  ...Array.from({ length: 95 }, (_, i) => String.fromCharCode(161 + i)),
  ...'–—‘’“”…•',
];

const faces = Object.entries(FACES).map(([id, file]) => {
  const data = readFileSync(join('node_modules', file));
  const font = opentype.parse(new Uint8Array(data).buffer);
  const unit = 1000 / font.unitsPerEm;
  const round = (v: number | undefined): number => Math.round((v ?? 0) * unit);
  const glyphs = LETTERS.flatMap((letter) => {
    const glyph = font.charToGlyph(letter);
    if (glyph.index === 0) return [];
    // The picture's rows run down.
    const path = glyph.path.commands
      .map((c) => {
        if (c.type === 'Z') return 'Z';
        const to = `${round(c.x)} ${-round(c.y)}`;
        if (c.type === 'Q') return `Q${round(c.x1)} ${-round(c.y1)} ${to}`;
        if (c.type === 'C')
          return `C${round(c.x1)} ${-round(c.y1)} ${round(c.x2)} ${-round(c.y2)} ${to}`;
        return `${c.type}${to}`;
      })
      .join('');
    return [[letter, [round(glyph.advanceWidth), path]] as const];
  });
  return [
    id,
    {
      capital: round(Number(font.tables['os2']!['sCapHeight'])),
      glyphs: Object.fromEntries(glyphs),
    },
  ] as const;
});
writeFileSync(
  'core/steps/fill/glyphs.json',
  `${JSON.stringify(Object.fromEntries(faces)).replaceAll('],"', '],\n"')}\n`,
);
