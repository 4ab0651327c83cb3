/**
 * Shared by measurements in a browser: endpoints, imported footage, a page, and figures as text.
 */
import { type Browser, chromium, type Page } from '@playwright/test';
import { readFileSync } from 'node:fs';
import { basename } from 'node:path';

/** Address of the application. */
export const BASE = process.env['BASE']!;

/** Calls an endpoint. Throws if it does not answer with success. */
export const api = async <T>(method: string, path: string, data?: unknown): Promise<T> => {
  const answer = await fetch(BASE + path, {
    method,
    ...(data !== undefined && {
      body: JSON.stringify(data),
      headers: { 'content-type': 'application/json' },
    }),
  });
  if (!answer.ok) throw new Error(`${path}: ${answer.status} ${await answer.text()}`);
  return (await answer.json()) as T;
};

/** Imports files as clips; returns their ids in the project's order. */
export async function bringIn(project: string, files: readonly string[]): Promise<string[]> {
  for (const file of files) {
    const name = basename(file);
    const { id } = await api<{ id: string }>('POST', `/api/projects/${project}/imports`, {
      name,
      files: [name],
    });
    await fetch(`${BASE}/api/imports/${id}/0`, { method: 'PUT', body: readFileSync(file) });
    await api('POST', `/api/imports/${id}`);
  }
  for (;;) {
    const { clips } = await api<{ clips: { id: string }[] }>('GET', `/api/projects/${project}`);
    if (clips.length === files.length) return clips.map((c) => c.id);
    await new Promise((r) => setTimeout(r, 500));
  }
}

/** Starts a browser with a page. */
export async function browsing(): Promise<{ browser: Browser; page: Page }> {
  const browser = await chromium.launch({
    executablePath: '/usr/bin/chromium',
    args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'],
  });
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.addInitScript('globalThis.__name = (f) => f'); // the TypeScript runner names functions with it
  return { browser, page };
}

/**
 * Time that the hypervisor has taken from this machine's cores, in hundredths of a second; 0 if
 * unknown.
 */
export const stolen = (): number => {
  try {
    return Number(readFileSync('/proc/stat', 'utf8').split('\n')[0]!.trim().split(/\s+/)[8] ?? 0);
  } catch {
    return 0;
  }
};

const share = (v: readonly number[], s: number): string =>
  v.length === 0
    ? '–'
    : [...v].sort((a, b) => a - b)[Math.min(v.length - 1, Math.floor(v.length * s))]!.toFixed(0);
/** Median and 95th percentile as text. */
export const both = (v: readonly number[]): string =>
  `${share(v, 0.5)} / ${share(v, 0.95)} ms`.padEnd(14);
