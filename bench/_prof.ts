import { readFileSync } from 'node:fs';
import * as core from '/work/main/core/index';
import { Engine } from '/work/main/core/engine/index';
import { probe, placeOf } from '/work/main/server/media/probe';
import { frameOf } from '/work/main/server/media/decode';
const which = process.argv[2] ?? 'soft-lens',
  dial = process.argv[3] ?? 'age',
  turns = Number(process.argv[4] ?? 12),
  file = process.argv[5] ?? 'rain-window';
const look = which.endsWith('.json') ? JSON.parse(readFileSync(which, 'utf8')) : core.SHIPPED.find((s: any) => s.id === which)!.look;
const f = await probe(`/work/main/demo/footage/${file}.mp4`);
const raw = await frameOf(await placeOf(`/work/main/demo/footage/${file}.mp4`), f, 40);
const engine = new Engine({ limit: 600 * 2 ** 20, helpers: 0 });
const be = (engine as any).backEnd;
const fill = be.fill.bind(be);
let log: [string, number][] = [];
be.fill = (group: any, ...rest: any[]) => {
  const t = performance.now();
  const r = fill(group, ...rest);
  log.push([
    `${group.root.width}x${group.root.height}x${group.root.planes} reads ${group.reads.map((r: any) => r.planes).join('+')} : ${group.members.map((m: any) => m.shape.slice(0, 40)).join(' > ')}`,
    performance.now() - t,
  ]);
  return r;
};
const best = new Map<string, number>();
let bestTotal = 1e9;
for (let i = 0; i < turns; i++) {
  const l = { ...look, dials: look.dials.map((d: any) => (d.key === dial ? { ...d, value: 20 + ((i * 37) % 60) } : d)) };
  const at = core.momentOf(
    raw,
    { encoding: 'bt709', fit: 'fit', pixelAspect: 1, balance: null, pins: {}, content: 'x', rate: [25, 1], whole: undefined } as any,
    40,
    960,
    540,
    {},
  );
  const p = core.plan(l, { ...at, bedrock: core.keep(at.bedrock) });
  log = [];
  const t = performance.now();
  engine.compute(core.packedForPage(core.toCodes(p.result, 'bt709')), { keepMarked: true });
  const total = performance.now() - t;
  if (i > 1) {
    bestTotal = Math.min(bestTotal, total);
    for (const [k, v] of log) best.set(k, Math.min(best.get(k) ?? 1e9, v));
  }
}
let sum = 0;
for (const [k, v] of best) {
  sum += v;
  console.log(v.toFixed(1).padStart(6), k);
}
console.log('sum', sum.toFixed(1), 'total', bestTotal.toFixed(1));
