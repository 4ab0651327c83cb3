import { chromium } from '@playwright/test';
const BASE = 'http://127.0.0.1:4321';
const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'] });
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
await page.addInitScript('globalThis.__name = (f) => f');
const projects = await (await fetch(BASE + '/api/projects')).json() as any;
const project = (projects.projects ?? projects.items ?? projects)[0];
await page.goto(`${BASE}/p/${project.id}/bench`);
await page.waitForSelector('canvas[data-view="hero"][data-exact="true"]', { timeout: 60000 });
await page.waitForTimeout(3000);
const client = await page.context().newCDPSession(page);
await browser.startTracing(page, { path: '/tmp/trace.json', categories: ['toplevel','disabled-by-default-devtools.timeline','devtools.timeline','cc','viz','gpu','v8','blink'] });
const out = await page.evaluate(async (label) => {
  const slider = document.querySelector<HTMLInputElement>(`input[type=range][aria-label="${label}"]`)!;
  const set = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value')!.set!;
  const serial = (c: HTMLCanvasElement) => Number(c.dataset['serial'] ?? 0);
  const hero = document.querySelector<HTMLCanvasElement>('canvas[data-view="hero"]')!;
  const others = [...document.querySelectorAll<HTMLCanvasElement>('canvas[data-view^="companion:"]')];
  const res: number[] = [];
  for (let i = 0; i < 20; i++) {
    const before = Math.max(serial(hero), ...others.map(serial)); const t0 = performance.now(); let h = 0;
    set.call(slider, String(20 + ((i * 37) % 60))); slider.dispatchEvent(new Event('input', { bubbles: true }));
    for (;;) { await new Promise((r) => setTimeout(r, 0)); if (!h && serial(hero) > before) h = performance.now() - t0; if (h && others.every((c) => serial(c) > before)) break; }
    res.push(h); await new Promise((r) => setTimeout(r, 30));
  }
  return res;
}, process.argv[2] ?? 'Bloom');
await browser.stopTracing();
console.log(out.map((v) => v.toFixed(0)).join(' '));
await browser.close();
