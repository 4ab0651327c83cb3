import { chromium } from '@playwright/test';
const base='http://127.0.0.1:4321';
const projects = await (await fetch(base+'/api/projects')).json();
const { id } = projects.find((p) => p.name === 'Harbour Static');
const looks = await (await fetch(base+'/api/looks')).json();
const { clips } = await (await fetch(`${base}/api/projects/${id}`)).json();
export const clip = (n) => clips.find((c) => c.name === n).id, look = (n) => looks.find((l) => l.name === n)?.id;
const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox', '--disable-gpu'] });
export const project = id;
export async function visit(path, act, out) {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  page.on('pageerror', (e) => console.log('PAGE ERROR', e.message));
  page.on('console', (m) => m.type()==='error' && console.log('CONSOLE', m.text().slice(0,300)));
  await page.goto(base + path);
  await page.waitForSelector('canvas[data-view="hero"][data-exact="true"]', { timeout: 60000 });
  await act(page);
  await page.waitForTimeout(2000);
  await page.screenshot({ path: out });
  await page.close();
}
export const done = () => browser.close();
