/** Writes docs/steps.md from the steps' own declarations; with --check, says whether the page is current. */
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { type Parameter, STEPS } from '../core';

const range = (p: Parameter): string =>
  p.kind === 'number' ? `${p.min} … ${p.max}${p.unit ? ` ${p.unit}` : ''}` : p.kind === 'choice' ? p.options.map((o) => o.id).join(', ') : '';
const value = (p: Parameter): string => JSON.stringify(p.default);

const page = `# Steps

Made from the steps' own declarations by \`npx tsx scripts/steps-page.ts\`.

${STEPS.map(
  (s) => `## ${s.label} (\`${s.id}\`)

${s.help} Family *${s.family}*, domain *${s.domain}*.

| parameter | kind | range | default |
| --- | --- | --- | --- |
${s.parameters.map((p) => `| ${p.label} (\`${p.id}\`) | ${p.kind} | ${range(p)} | \`${value(p)}\` |`).join('\n')}
`,
).join('\n')}`;

if (process.argv.includes('--check')) {
  if (readFileSync('docs/steps.md', 'utf8') !== page) {
    console.error('docs/steps.md is not current: run npx tsx scripts/steps-page.ts');
    process.exit(1);
  }
} else {
  mkdirSync('docs', { recursive: true });
  writeFileSync('docs/steps.md', page);
}
