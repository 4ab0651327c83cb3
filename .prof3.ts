import { Engine } from './core/engine';
import { groupOf, expressions, materialised } from './core/engine/fusion';
import { building, lower, inOrder } from './core/kernel';
import { applyStep } from './core/steps/apply';
import { stepOf, withDefaults } from './core/steps';
import { inDomain } from './core/image/convert';
import { blur } from './core/image';
import { leafOf, randomPlanes } from './core/engine/comparing';
import { keep } from './core/plan/graph';
const W=960,H=540;
const engine = new Engine({ limit: 1<<30, helpers: 0 });
const planes = randomPlanes(3, W, H, 11).map((p) => p.map((v) => Math.abs(v) / 4));
const light = leafOf(planes, W, H, 'light', 'l'), enc = leafOf(planes, W, H, 'encoded', 'e');
const pool = (engine as any).pool; const fill = pool.fill.bind(pool); let fs = 0; pool.fill = (...a: any[]) => { const t = performance.now(); const r = fill(...a); fs += performance.now()-t; return r; };
const at = (i:number)=>({ frame: 3, width: W, height: H, seed: 5+i });
const cases: Record<string, (i:number)=>any> = {
  grain: i => applyStep(stepOf('grain')!, enc, { ...withDefaults(stepOf('grain')!, {amount: 20, size: 4}) }, 1, at(i)),
  vignette: i => applyStep(stepOf('vignette')!, light, { ...withDefaults(stepOf('vignette')!, {stops: -1-i/50}) }, 1, at(i)),
  convert: i => inDomain(applyStep(stepOf('exposure')!, light, {stops: 0.1+i/100}, 1, at(i)), 'encoded'),
  exposure: i => applyStep(stepOf('exposure')!, light, {stops: 0.1+i/100}, 1, at(i)),
  curves: i => applyStep(stepOf('tone-curves')!, enc, withDefaults(stepOf('tone-curves')!, {all: [[0,0.1+i/1000],[1,1]]}), 1, at(i)),
};
for (const [name, f] of Object.entries(cases)) {
  const g = groupOf(f(0), materialised([f(0)], false));
  const nodes = building(() => inOrder(lower(expressions(g))).length);
  const t: number[] = [];
  for (let i = 0; i < 40; i++) { const n = f(i); fs = 0; engine.compute(n); t.push(fs); }
  console.log(name.padEnd(10), 'nodes', nodes, 'min', Math.min(...t.slice(10)).toFixed(2), 'median', t.slice(10).sort((a,b)=>a-b)[15]!.toFixed(2));
}
