import { Engine } from '/work/main/core/engine';
import { plan } from '/work/main/core/plan';
import { shippedLook, edit } from '/work/main/core/look';
import { packedForPage, toCodes } from '/work/main/core/image';
import { leafOf, randomPlanes } from '/work/main/core/engine/comparing';
const W=Number(process.argv[3]??960), H=Number(process.argv[4]??540);
const engine = new Engine({ limit: 320<<20, helpers: 0 });
const bedrock = leafOf(randomPlanes(3, W, H, 11).map((p) => p.map((v) => Math.abs(v) / 4)), W, H, 'light', 'clip');
const pool = (engine as any).pool; const fill = pool.fill.bind(pool);
const e = engine as any; const kern = e.kernel.bind(e);
let fillSum = 0; let cur = ''; const times = new Map<string, number[]>();
e.kernel = (g: any) => { cur = `${g.root.width}x${g.root.height}x${g.root.planes} ` + g.members.map((m: any) => m.shape.slice(0,40)).join(' > '); return kern(g); };
pool.fill = (...a: any[]) => { const t = performance.now(); const r = fill(...a); const d = performance.now()-t; fillSum += d; (times.get(cur) ?? times.set(cur, []).get(cur)!).push(d); return r; };
const look = shippedLook('soft-lens')!;
const dial = process.argv[2] ?? 'age';
const tot: number[] = [];
for (let i = 0; i < 30; i++) {
  const l = edit.setDial(look, dial as any, 20 + ((i*37)%60));
  const t = performance.now();
  const pl = packedForPage(toCodes(plan(l, { bedrock, content: 'abc', frame: 3 }).result, 'bt709')); const tp = performance.now(); fillSum = 0;
  engine.compute(pl, { keepMarked: true }); console.log('faults', process.resourceUsage().minorPageFault, 'plan', (tp-t).toFixed(2), 'compute', (performance.now()-tp).toFixed(2), 'fill', fillSum.toFixed(2));
  if (i >= 10) tot.push(performance.now()-t);
}
const med = (v: number[]) => Math.min(...v);
let sum=0;
for (const [k, v] of [...times].map(([k, v]) => [k, med(v.slice(Math.min(10,v.length-1)))] as const).sort((a, b) => b[1]-a[1])) { sum+=v; console.log(v.toFixed(2).padStart(7), times.get(k)!.length, k); }
console.log('kernels', sum.toFixed(1), 'total median', med(tot).toFixed(1));
