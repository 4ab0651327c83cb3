import { Engine, Memory } from './core/engine';
import { helpWith } from './core/engine/pool';
import { plan } from './core/plan';
import { shippedLook, edit } from './core/look';
import { packedForPage, toCodes } from './core/image';
import { keep, operation, each } from './core/plan/graph';
import { leafOf, randomPlanes } from './core/engine/comparing';
const me = self as any;
async function main() {
  const W=960,H=540; const out: string[] = [];
  for (const helpers of [0,1]) {
    const memory = new Memory(320<<20);
    const hs = [];
    for (let i=0;i<helpers;i++) { const w = new Worker(location.href); hs.push(new Promise(r => w.onmessage = r)); w.postMessage({ helper: memory.wasm }); }
    await Promise.all(hs);
    const engine = new Engine({ limit: 320<<20, helpers, memory });
    const pool = (engine as any).pool; const fill = pool.fill.bind(pool); let fs = 0;
    pool.fill = (...a: any[]) => { const t = performance.now(); const r = fill(...a); fs += performance.now()-t; return r; };
    const leaf = leafOf(randomPlanes(3, W, H, 11).map((p) => p.map((v) => Math.abs(v) / 4)), W, H, 'light', 'clip');
    const bedrock = keep(operation({shape:'copy',inputs:[each(leaf)],planes:3,domain:'light',build:b=>b.pixel(0)}));
    for (const dial of ['bloom','age','frame']) {
      const tot: number[] = [], fills: number[] = [];
      for (let i = 0; i < 60; i++) {
        const l = edit.setDial(shippedLook('soft-lens')!, dial as any, 20 + ((i*37)%60) + i/100);
        const t = performance.now(); fs = 0;
        engine.compute(packedForPage(toCodes(plan(l, { bedrock, content: 'abc', frame: 3 }).result, 'bt709')), { keepMarked: true });
        if (i >= 20) { tot.push(performance.now()-t); fills.push(fs); }
        await new Promise(r => setTimeout(r, me.pause ?? 0));
      }
      tot.sort((a,b)=>a-b); fills.sort((a,b)=>a-b);
      out.push(`${helpers} ${dial} min ${tot[0]!.toFixed(1)} median ${tot[20]!.toFixed(1)} p95 ${tot[38]!.toFixed(1)} fill min ${fills[0]!.toFixed(1)} median ${fills[20]!.toFixed(1)}`);
    }
  }
  me.postMessage(out.join('\n'));
}
me.onmessage = (e: any) => { if (e.data.helper) { me.postMessage('here'); helpWith(e.data.helper); } else { me.pause = e.data.pause; void main(); } };
