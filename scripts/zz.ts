import { demoCut } from '../demo/cut';
const base = 'http://127.0.0.1:4321';
const [p] = await (await fetch(`${base}/api/projects`)).json();
const project = await (await fetch(`${base}/api/projects/${p.id}`)).json();
const { revision } = await (await fetch(`${base}/api/projects/${p.id}/cut`)).json();
const document = demoCut(
  (n) => [...project.clips, ...project.plates].find((c: any) => c.name === n).id,
  (n) => project.sounds.find((s: any) => s.name === n),
);
const r = await fetch(`${base}/api/projects/${p.id}/cut`, { method: 'PUT', headers: { origin: base, 'content-type': 'application/json' }, body: JSON.stringify({ document, revision }) });
console.log(r.status, await r.text());
