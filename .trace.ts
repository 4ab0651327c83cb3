import { chromium } from '@playwright/test';
const BASE = 'http://127.0.0.1:4321';
const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'] });
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
await page.addInitScript('globalThis.__name = (f) => f');
await page.addInitScript(() => {
  const W = window.Worker; const log: any[] = ((window as any).__log = []);
  window.Worker = class extends W { constructor(...a: any[]) { super(...(a as [any])); this.addEventListener('message', (e: any) => { if (e.data.kind==='pixels'||e.data.kind==='done') log.push([performance.now(), 'got', e.data.view ?? e.data.kind, e.data.milliseconds, e.data.computed]); }); }
    postMessage(m: any, t?: any) { if (m.kind==='request') log.push([performance.now(), 'request', m.views.length]); super.postMessage(m, t); } } as any;
});
const projects = await (await fetch(BASE + '/api/projects')).json() as any;
const project = (projects.projects ?? projects.items ?? projects)[0];
await page.goto(`${BASE}/p/${project.id}/bench`);
await page.waitForSelector('canvas[data-view="hero"][data-exact="true"]', { timeout: 60000 });
await page.waitForTimeout(3000);
const out = await page.evaluate(async (label) => {
  const slider = document.querySelector<HTMLInputElement>(`input[type=range][aria-label="${label}"]`)!;
  const set = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value')!.set!;
  const log = (window as any).__log; const res: any[] = [];
  for (let i = 0; i < 40; i++) {
    log.length = 0; const t0 = performance.now();
    set.call(slider, String(20 + ((i * 37) % 60))); slider.dispatchEvent(new Event('input', { bubbles: true }));
    const t1 = performance.now();
    await new Promise((r) => setTimeout(r, 900));
    if (i > 20) res.push(`sync ${(t1 - t0).toFixed(1)} | ` + log.map((l: any) => `${(l[0] - t0).toFixed(1)} ${l[1]} ${l[2]} ${l[3]?.toFixed?.(1) ?? ''} ${l[4] ?? ''}`).join(' | '));
  }
  return res;
}, process.argv[2] ?? 'Bloom');
console.log(out.slice(-8).join('\n\n'));
await browser.close();
