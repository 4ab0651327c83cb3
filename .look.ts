import { chromium } from '@playwright/test';
const BASE = 'http://127.0.0.1:4321';
const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'] });
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
await page.addInitScript('globalThis.__name = (f) => f');
page.on('console', (m) => { if (m.type() === 'error') console.log('console', m.text()); });
const all = await (await fetch(BASE + '/api/projects')).json() as any;
const project = (all.projects ?? all.items ?? all)[0];
await page.goto(`${BASE}/p/${project.id}/bench`);
await page.waitForSelector('canvas[data-view="hero"][data-exact="true"]', { timeout: 60000 });
const layer = page.locator('[data-layer]').first();
for (const step of (process.argv[2] ?? 'three-way').split(',')) await layer.getByLabel(/Add a step to/).selectOption(step);
if (process.argv[2]?.includes('three-way')) { const w = page.getByRole('slider', { name: 'Gain wheel' }); await w.focus(); for (let i = 0; i < 8; i++) await page.keyboard.press('ArrowRight'); }
if (process.argv[2]?.includes('lut')) { await page.getByLabel('Table file').setInputFiles(process.argv[4] ?? '/tmp/x.cube'); }
await page.waitForTimeout(2500);
await page.screenshot({ path: process.argv[3] ?? '/tmp/a.png' });
await browser.close();
