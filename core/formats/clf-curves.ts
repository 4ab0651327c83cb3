/** The nodes of CLF that are formulas on single channels: ASC_CDL, Log, Exponent (ST 2136-1, §7). */
import { logd, powd } from '../kernel';
import { type ColourFunction, numberIn, type Rgb, wrong } from './clf-file';
import { numberOf } from './parsed';
import { childOf, type Element } from './xml';

type Curve = (x: number) => number;
const each =
  (curves: readonly Curve[]): ColourFunction =>
  (c) => [curves[0]!(c[0]), curves[1]!(c[1]), curves[2]!(c[2])];
const held = (x: number): number => Math.max(0, Math.min(1, x));

function three(e: Element, node: string, name: string, standard: number): Rgb {
  const at = childOf(e, node),
    found = at && childOf(at, name);
  if (!found) return [standard, standard, standard];
  const v = found.words.map(numberOf);
  return v.length === 3 && v.every((x) => x !== undefined) ? (v as unknown as Rgb) : wrong(found, 'it needs three numbers');
}

export function cdlNode(e: Element): ColourFunction {
  const style = e.attributes['style'] ?? 'Fwd';
  if (!['Fwd', 'Rev', 'FwdNoClamp', 'RevNoClamp'].includes(style)) wrong(e, `the style "${style.slice(0, 40)}" is not read`);
  const [slope, offset, power] = [three(e, 'SOPNode', 'Slope', 1), three(e, 'SOPNode', 'Offset', 0), three(e, 'SOPNode', 'Power', 1)];
  const sat = childOf(e, 'SatNode'),
    satWord = sat && childOf(sat, 'Saturation')?.words[0];
  const saturation = satWord === undefined ? 1 : (numberOf(satWord) ?? wrong(e, 'Saturation must be a number'));
  if (power.some((p) => p <= 0) || slope.some((s) => s < 0)) wrong(e, 'power must be above 0 and slope not below');
  const clamp: Curve = style.endsWith('NoClamp') ? (x) => x : held;
  const saturate = (c: Rgb, s: number): Rgb => {
    const y = 0.2126 * c[0] + 0.7152 * c[1] + 0.0722 * c[2];
    return c.map((x) => y + s * (x - y)) as unknown as Rgb;
  };
  const toPower = (x: number, p: number): number => (x < 0 ? x : powd(x, p));
  if (style.startsWith('Fwd'))
    return (c) =>
      saturate(c.map((x, i) => toPower(clamp(x * slope[i]! + offset[i]!), power[i]!)) as unknown as Rgb, saturation).map(clamp) as unknown as Rgb;
  if (saturation === 0 || slope.some((s) => s === 0)) wrong(e, 'a correction with slope or saturation 0 cannot be turned back');
  return (c) =>
    saturate(c.map(clamp) as unknown as Rgb, 1 / saturation).map((x, i) =>
      clamp((toPower(clamp(x), 1 / power[i]!) - offset[i]!) / slope[i]!),
    ) as unknown as Rgb;
}

/** Parameter elements for all channels, or one for each. */
function parameters(e: Element, name: string): Element[] {
  const all = e.children.filter((c) => c.name === name);
  const channel = (id: string) => all.find((p) => p.attributes['channel'] === id) ?? all.find((p) => p.attributes['channel'] === undefined);
  const found = ['R', 'G', 'B'].map(channel);
  return found.every((p) => p !== undefined) ? found : wrong(e, `it has no ${name} for every channel`);
}

const LEAST = 2 ** -126;
const logOf = (x: number, base: number): number => logd(Math.max(x, LEAST)) / logd(base);

export function logNode(e: Element): ColourFunction {
  const style = e.attributes['style'] ?? '';
  const plain: Record<string, Curve> = {
    log10: (x) => logOf(x, 10),
    antiLog10: (x) => powd(10, x),
    log2: (x) => logOf(x, 2),
    antiLog2: (x) => powd(2, x),
  };
  const simple = plain[style];
  if (simple) return each([simple, simple, simple]);
  if (!['linToLog', 'logToLin', 'cameraLinToLog', 'cameraLogToLin'].includes(style)) wrong(e, `the style "${style.slice(0, 40)}" is not read`);
  return each(parameters(e, 'LogParams').map((p) => logCurve(e, p, style)));
}

function logCurve(e: Element, p: Element, style: string): Curve {
  const base = numberIn(p, 'base', 2),
    logSlope = numberIn(p, 'logSideSlope', 1),
    logOffset = numberIn(p, 'logSideOffset', 0),
    linSlope = numberIn(p, 'linSideSlope', 1),
    linOffset = numberIn(p, 'linSideOffset', 0);
  if (base <= 0 || base === 1 || logSlope === 0 || linSlope === 0) wrong(e, 'base must be above 0 and not 1, slopes not 0');
  const toLog: Curve = (x) => logSlope * logOf(linSlope * x + linOffset, base) + logOffset;
  const toLin: Curve = (y) => (powd(base, (y - logOffset) / logSlope) - linOffset) / linSlope;
  if (style === 'linToLog') return toLog;
  if (style === 'logToLin') return toLin;
  const edge = numberIn(p, 'linSideBreak');
  const slope = numberIn(p, 'linearSlope', (logSlope * linSlope) / ((linSlope * edge + linOffset) * logd(base)));
  const edgeLog = toLog(edge);
  const shift = edgeLog - slope * edge;
  return style === 'cameraLinToLog' ? (x) => (x <= edge ? slope * x + shift : toLog(x)) : (y) => (y <= edgeLog ? (y - shift) / slope : toLin(y));
}

export function exponentNode(e: Element): ColourFunction {
  const style = e.attributes['style'] ?? '';
  return each(parameters(e, 'ExponentParams').map((p) => exponentCurve(e, p, style)));
}

function exponentCurve(e: Element, p: Element, style: string): Curve {
  const g = numberIn(p, 'exponent');
  if (g <= 0) wrong(e, 'exponent must be above 0');
  const mirrored =
    (f: Curve): Curve =>
    (x) =>
      x < 0 ? -f(-x) : f(x);
  const passing =
    (f: Curve): Curve =>
    (x) =>
      x < 0 ? x : f(x);
  const up: Curve = (x) => powd(Math.max(0, x), g),
    down: Curve = (x) => powd(Math.max(0, x), 1 / g);
  const basic: Record<string, Curve> = {
    basicFwd: up,
    basicRev: down,
    basicMirrorFwd: mirrored(up),
    basicMirrorRev: mirrored(down),
    basicPassThruFwd: passing(up),
    basicPassThruRev: passing(down),
  };
  const known = basic[style];
  if (known) return known;
  const offset = numberIn(p, 'offset', 0);
  if (g <= 1 || offset <= 0) wrong(e, 'a monitor curve needs an exponent above 1 and an offset above 0');
  // The straight part meets the power in value and slope (ST 2136-1, monCurve).
  const edge = offset / (g - 1),
    slope = powd((g * offset) / ((g - 1) * (1 + offset)), g) / edge;
  const fwd: Curve = (x) => (x >= edge ? powd((x + offset) / (1 + offset), g) : x * slope);
  const rev: Curve = (y) => (y >= edge * slope ? (1 + offset) * powd(y, 1 / g) - offset : y / slope);
  const curve = { monCurveFwd: fwd, monCurveRev: rev, monCurveMirrorFwd: mirrored(fwd), monCurveMirrorRev: mirrored(rev) }[style];
  return curve ?? wrong(e, `the style "${style.slice(0, 40)}" is not read`);
}
