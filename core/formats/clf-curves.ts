/** Nodes of a CLF that are formulas on single channels: ASC_CDL, Log, Exponent (ST 2136-1, §7). */
import { logd, powd } from '../kernel';
import type { FormulaCurve, ProcessNode } from '../parameters';
import { curveInDouble } from '../steps';
import { numberIn, wrong } from './clf-node';
import { numberOf } from './parsed';
import { childOf, type Element } from './xml';

type Rgb = readonly [number, number, number];
const all = (c: FormulaCurve): ProcessNode => ({ node: 'curves', curves: [c, c, c] });
const each = (curves: readonly FormulaCurve[]): ProcessNode => ({
  node: 'curves',
  curves: curves as [FormulaCurve, FormulaCurve, FormulaCurve],
});

function three(e: Element, node: string, name: string, standard: number): Rgb {
  const at = childOf(e, node),
    found = at && childOf(at, name);
  if (!found) return [standard, standard, standard];
  const v = found.words.map(numberOf);
  return v.length === 3 && v.every((x) => x !== undefined)
    ? (v as unknown as Rgb)
    : wrong(found, 'it needs three numbers');
}

/** An ASC_CDL node. Throws `NodeFault`. */
export function cdlNode(e: Element): ProcessNode {
  const style = e.attributes['style'] ?? 'Fwd';
  if (!['Fwd', 'Rev', 'FwdNoClamp', 'RevNoClamp'].includes(style))
    wrong(e, `the style "${style.slice(0, 40)}" is not read`);
  const [slope, offset, power] = [
    three(e, 'SOPNode', 'Slope', 1),
    three(e, 'SOPNode', 'Offset', 0),
    three(e, 'SOPNode', 'Power', 1),
  ];
  const sat = childOf(e, 'SatNode'),
    satWord = sat && childOf(sat, 'Saturation')?.words[0];
  const saturation =
    satWord === undefined ? 1 : (numberOf(satWord) ?? wrong(e, 'Saturation must be a number'));
  if (power.some((p) => p <= 0) || slope.some((s) => s < 0))
    wrong(e, 'power must be above 0 and slope not below');
  const back = style.startsWith('Rev');
  if (back && (saturation === 0 || slope.some((s) => s === 0)))
    wrong(e, 'a correction with slope or saturation 0 cannot be turned back');
  return { node: 'cdl', back, hold: !style.endsWith('NoClamp'), slope, offset, power, saturation };
}

/** Parameter elements by channel: one for all, or one each; undefined for a channel without. */
function parametersOf(e: Element, name: string): (Element | undefined)[] {
  const all = e.children.filter((c) => c.name === name);
  return ['R', 'G', 'B'].map(
    (id) =>
      all.find((p) => p.attributes['channel'] === id) ??
      all.find((p) => p.attributes['channel'] === undefined),
  );
}
/** The same where every channel needs one. */
function parameters(e: Element, name: string): Element[] {
  const found = parametersOf(e, name);
  return found.every((p) => p !== undefined)
    ? found
    : wrong(e, `it has no ${name} for every channel`);
}

const LOGS: Readonly<Record<string, { readonly f: 'log' | 'antilog'; readonly base: 2 | 10 }>> = {
  log10: { f: 'log', base: 10 },
  antiLog10: { f: 'antilog', base: 10 },
  log2: { f: 'log', base: 2 },
  antiLog2: { f: 'antilog', base: 2 },
};

/** A Log node. Throws `NodeFault`. */
export function logNode(e: Element): ProcessNode {
  const style = e.attributes['style'] ?? '';
  const plain = LOGS[style];
  if (plain) return all({ ...plain, logSlope: 1, logOffset: 0, linSlope: 1, linOffset: 0 });
  if (!['linToLog', 'logToLin', 'cameraLinToLog', 'cameraLogToLin'].includes(style))
    wrong(e, `the style "${style.slice(0, 40)}" is not read`);
  return each(parameters(e, 'LogParams').map((p) => logCurve(e, p, style)));
}

function logCurve(e: Element, p: Element, style: string): FormulaCurve {
  const params = {
    base: numberIn(p, 'base', 2),
    logSlope: numberIn(p, 'logSideSlope', 1),
    logOffset: numberIn(p, 'logSideOffset', 0),
    linSlope: numberIn(p, 'linSideSlope', 1),
    linOffset: numberIn(p, 'linSideOffset', 0),
  };
  const { base, logSlope, linSlope, linOffset } = params;
  if (base <= 0 || base === 1 || logSlope === 0 || linSlope === 0)
    wrong(e, 'base must be above 0 and not 1, slopes not 0');
  const toLog: FormulaCurve = { f: 'log', ...params };
  if (style === 'linToLog') return toLog;
  if (style === 'logToLin') return { f: 'antilog', ...params };
  const edge = numberIn(p, 'linSideBreak');
  const slope = numberIn(
    p,
    'linearSlope',
    (logSlope * linSlope) / ((linSlope * edge + linOffset) * logd(base)),
  );
  const edgeLog = curveInDouble(toLog)(edge),
    shift = edgeLog - slope * edge;
  if (slope === 0) wrong(e, 'linearSlope must not be 0');
  return style === 'cameraLinToLog'
    ? { ...toLog, line: { edge, slope, shift } }
    : { f: 'antilog', ...params, line: { edge: edgeLog, slope: 1 / slope, shift: -shift / slope } };
}

const BELOW: Readonly<Record<string, 'zero' | 'mirror' | 'pass'>> = {
  basic: 'zero',
  basicMirror: 'mirror',
  basicPassThru: 'pass',
};

/** What an Exponent node does to a channel that it does not name. */
const IDENTITY: FormulaCurve = { f: 'power', exponent: 1, below: 'pass' };
/** An Exponent node. Throws `NodeFault`. */
export function exponentNode(e: Element): ProcessNode {
  const style = e.attributes['style'] ?? '';
  const found = parametersOf(e, 'ExponentParams');
  if (found.every((p) => p === undefined)) wrong(e, 'it has no ExponentParams');
  return each(found.map((p) => (p ? exponentCurve(e, p, style) : IDENTITY)));
}

function exponentCurve(e: Element, p: Element, style: string): FormulaCurve {
  const exponent = numberIn(p, 'exponent');
  if (exponent <= 0) wrong(e, 'exponent must be above 0');
  const [, kind = '', way = ''] = /^(.*?)(Fwd|Rev)$/.exec(style) ?? [];
  const below = BELOW[kind];
  if (below) return { f: 'power', exponent: way === 'Fwd' ? exponent : 1 / exponent, below };
  if (kind !== 'monCurve' && kind !== 'monCurveMirror')
    wrong(e, `the style "${style.slice(0, 40)}" is not read`);
  const offset = numberIn(p, 'offset', 0);
  if (exponent <= 1 || offset <= 0)
    wrong(e, 'a monitor curve needs an exponent above 1 and an offset above 0');
  // The straight part meets the power in value and slope (ST 2136-1, monCurve).
  const edge = offset / (exponent - 1),
    slope = powd((exponent * offset) / ((exponent - 1) * (1 + offset)), exponent) / edge;
  return {
    f: way === 'Fwd' ? 'monitor' : 'monitor-back',
    exponent,
    offset,
    edge,
    slope,
    mirror: kind === 'monCurveMirror',
  };
}
