import { startEngine } from './server/render/threads';
import { plan } from './core/plan';
import { shippedLook, edit } from './core/look';
import { packedForPage, toCodes } from './core/image';
import { keep, operation, each } from './core/plan/graph';
import { leafOf, randomPlanes } from './core/engine/comparing';
const W=960,H=540;
for (const threads of [1,2]) {
const { engine } = startEngine(threads, 320<<20);
await new Promise(r=>setTimeout(r,500));
const leaf = leafOf(randomPlanes(3, W, H, 11).map((p) => p.map((v) => Math.abs(v) / 4)), W, H, 'light', 'clip');
const bedrock = keep(operation({shape:'copy',inputs:[each(leaf)],planes:3,domain:'light',build:b=>b.pixel(0)}));
for (const dial of ['bloom','age','frame']) {
const tot: number[] = [];
for (let i = 0; i < 60; i++) {
  const l = edit.setDial(shippedLook('soft-lens')!, dial as any, 20 + ((i*37)%60) + i/100);
  const t = performance.now();
  engine.compute(packedForPage(toCodes(plan(l, { bedrock, content: 'abc', frame: 3 }).result, 'bt709')), { keepMarked: true });
  if (i >= 20) tot.push(performance.now()-t);
}
tot.sort((a,b)=>a-b);
console.log(threads, dial, 'min', tot[0]!.toFixed(1), 'median', tot[tot.length>>1]!.toFixed(1), 'p95', tot[Math.floor(tot.length*.95)]!.toFixed(1));
}}
process.exit(0);
