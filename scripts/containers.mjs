// Reads the Dockerfile and the compose file as their tools would: what is wrong ends it with 1.
import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { validate } from 'dockerfile-utils';
import { parseDocument } from 'yaml';

const root = fileURLToPath(new URL('..', import.meta.url));
const read = (name) => readFileSync(join(root, name), 'utf8');
const wrong = validate(read('Dockerfile')).map(
  ({ message, range }) => `Dockerfile:${range.start.line + 1} ${message}`,
);

const compose = parseDocument(read('compose.yaml'), { merge: true });
wrong.push(...compose.errors.map((e) => `compose.yaml ${e.message}`));
const { services = {} } = compose.toJS() ?? {};
for (const [name, { image, build, command = [], depends_on: on = {} }] of Object.entries(
  services,
)) {
  if (!image && !build) wrong.push(`compose.yaml ${name} has neither an image nor a build`);
  for (const other of Object.keys(on))
    if (!(other in services))
      wrong.push(`compose.yaml ${name} waits for ${other}, which is not there`);
  for (const file of command.filter((w) => /\.(ts|mjs)$/.test(w)))
    if (!file.startsWith('dist-') && !existsSync(join(root, file)))
      wrong.push(`compose.yaml ${name} runs ${file}, which is not there`);
}
wrong.forEach((w) => console.error(w));
process.exitCode = wrong.length > 0 ? 1 : 0;
