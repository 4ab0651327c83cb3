// npm run cli -- …: the command line from one bundled file; it starts in a fraction of a second.
import { pathToFileURL } from 'node:url';
import { bundled } from './bundle.mjs';

await import(pathToFileURL(bundled('cli/main.ts', 'dist-cli', { whole: true })).href);
