/**
 * Writes what docs/ says of steps and looks from the declarations themselves; with --check, says
 * whether it is current.
 */
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { lookSchema, type Parameter, STEPS } from '../core';
import { trackSchema } from '../core/trace';

const range = (p: Parameter): string =>
  p.kind === 'number'
    ? `${p.min} … ${p.max}${p.unit ? ` ${p.unit}` : ''}`
    : p.kind === 'choice'
      ? p.options.map((o) => o.id).join(', ')
      : '';
const value = (p: Parameter): string => JSON.stringify(p.default);

const steps = `# Steps

Made from the steps' own declarations by \`npx tsx scripts/documents.ts\`; the pictures, each step alone on a clip of the demo, by \`npm run step-pictures\`.

${STEPS.map(
  (s) => `## ${s.label} (\`${s.id}\`)

${s.help} Family *${s.family}*, domain *${s.domain}*.

![${s.label}](steps/${s.id}.jpg)

| parameter | kind | range | default |
| --- | --- | --- | --- |
${s.parameters.map((p) => `| ${p.label} (\`${p.id}\`) | ${p.kind} | ${range(p)} | \`${value(p)}\` |`).join('\n')}
`,
).join('\n')}`;

const made: readonly (readonly [string, string])[] = [
  ['docs/steps.md', steps],
  ['docs/look.schema.json', `${JSON.stringify(lookSchema(), null, 1)}\n`],
  ['docs/track.schema.json', `${JSON.stringify(trackSchema(), null, 1)}\n`],
];
if (process.argv.includes('--check')) {
  const lacking = STEPS.filter((s) => !existsSync(`docs/steps/${s.id}.jpg`)).map((s) => s.id);
  if (lacking.length > 0) {
    console.error(`docs/steps lacks pictures: run npm run step-pictures -- ${lacking.join(' ')}`);
    process.exit(1);
  }
  for (const [file, text] of made)
    if (readFileSync(file, 'utf8') !== text) {
      console.error(`${file} is not current: run npx tsx scripts/documents.ts`);
      process.exit(1);
    }
} else {
  mkdirSync('docs', { recursive: true });
  for (const [file, text] of made) writeFileSync(file, text);
}
