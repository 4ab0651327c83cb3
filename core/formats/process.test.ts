import { describe, expect, it } from 'vitest';
import { parseClf } from '.';
import { Engine } from '../engine';
import { processValue } from '../parameters';
import { lowerStep, stepOf } from '../steps';
import { bitsThatDiffer, leafOf, randomFrom } from '../testing';

const engine = new Engine({ limit: 1 << 27, helpers: 0 });
const random = randomFrom(11);
const N = 3000;
const EDGES = [
  0,
  1,
  0.5,
  2 ** -14,
  -(2 ** -14),
  2 ** -20,
  -0.5,
  2,
  1 / 3,
  0.0031308,
  0.04045,
  0.0078125,
];
const planes = [0, 1, 2].map((c) =>
  Float32Array.from({ length: N }, (_, i) =>
    i < EDGES.length ** 2 ? edge(i, c) : random() * 2.5 - 0.5,
  ),
);
function edge(i: number, c: number): number {
  return EDGES[(c === 0 ? i : c === 1 ? Math.floor(i / EDGES.length) : i + 3) % EDGES.length]!;
}

const D = 'inBitDepth="32f" outBitDepth="32f"';
const numbers = (n: number, of: (i: number) => number): string =>
  Array.from({ length: n }, (_, i) => of(i)).join(' ');
const cube = (n: number) => numbers(n ** 3 * 3, () => Math.round(random() * 1e4) / 1e4);
const half = (bits: number): number => {
  const exponent = (bits >> 10) & 31,
    fraction = bits & 1023;
  const size = exponent === 0 ? fraction * 2 ** -24 : (1024 + fraction) * 2 ** (exponent - 25);
  return (bits & 0x8000 ? -1 : 1) * (exponent === 31 ? 1 : size);
};
const params =
  'base="10" logSideSlope="0.25" logSideOffset="0.6" linSideSlope="0.9" linSideOffset="0.02"';
const NODES: Record<string, string> = {
  'a matrix with offsets': `<Matrix ${D}><Array dim="3 4">1.2 -.1 -.1 .02 -.05 1.1 -.05 0 .01 -.2 1.19 -.03</Array></Matrix>`,
  'a range that holds': `<Range ${D}><minInValue>.1</minInValue><maxInValue>.9</maxInValue><minOutValue>-.1</minOutValue><maxOutValue>1.1</maxOutValue></Range>`,
  'a range with a floor alone': `<Range ${D}><minInValue>.1</minInValue><minOutValue>.2</minOutValue></Range>`,
  ...Object.fromEntries(
    ['log10', 'log2', 'antiLog10', 'antiLog2'].map((s) => [s, `<Log ${D} style="${s}"/>`]),
  ),
  ...Object.fromEntries(
    ['linToLog', 'logToLin'].map((s) => [s, `<Log ${D} style="${s}"><LogParams ${params}/></Log>`]),
  ),
  ...Object.fromEntries(
    ['cameraLinToLog', 'cameraLogToLin'].map((s) => [
      s,
      `<Log ${D} style="${s}"><LogParams base="2" logSideSlope="0.0570776255707762" logSideOffset="0.554794520547945" linSideBreak="0.0078125"/></Log>`,
    ]),
  ),
  ...Object.fromEntries(
    [
      'basicFwd',
      'basicRev',
      'basicMirrorFwd',
      'basicMirrorRev',
      'basicPassThruFwd',
      'basicPassThruRev',
    ].map((s) => [s, `<Exponent ${D} style="${s}"><ExponentParams exponent="2.2"/></Exponent>`]),
  ),
  ...Object.fromEntries(
    ['monCurveFwd', 'monCurveRev', 'monCurveMirrorFwd', 'monCurveMirrorRev'].map((s) => [
      s,
      `<Exponent ${D} style="${s}"><ExponentParams exponent="2.4" offset="0.055"/></Exponent>`,
    ]),
  ),
  'a gamma as a table': `<LUT1D ${D}><Array dim="1024 1">${numbers(1024, (i) => (i / 1023) ** 2.2)}</Array></LUT1D>`,
  'a table a channel, of integers': `<LUT1D inBitDepth="32f" outBitDepth="16i"><Array dim="33 3">${numbers(99, (i) => Math.round(random() * 655 * i))}</Array></LUT1D>`,
  'a table that keeps the hue': `<LUT1D ${D} hueAdjust="dw3"><Array dim="256 3">${numbers(768, (i) => (Math.floor(i / 3) / 255) ** (1.5 + (i % 3) / 5))}</Array></LUT1D>`,
  'a table over half floats': `<LUT1D inBitDepth="16f" outBitDepth="16f" halfDomain="true"><Array dim="65536 1">${numbers(65536, (i) => Math.fround(Math.cbrt(half(i))))}</Array></LUT1D>`,
  'a table of raw half floats': `<LUT1D inBitDepth="16f" outBitDepth="16f" halfDomain="true" rawHalfs="true"><Array dim="65536 1">${numbers(65536, (i) => i)}</Array></LUT1D>`,
  'a cube by tetrahedra': `<LUT3D ${D} interpolation="tetrahedral"><Array dim="5 5 5 3">${cube(5)}</Array></LUT3D>`,
  'a cube by all corners': `<LUT3D ${D} interpolation="trilinear"><Array dim="5 5 5 3">${cube(5)}</Array></LUT3D>`,
  ...Object.fromEntries(
    ['Fwd', 'Rev', 'FwdNoClamp', 'RevNoClamp'].map((s) => [
      `a decision list ${s}`,
      `<ASC_CDL ${D} style="${s}"><SOPNode><Slope>1.2 1 .9</Slope><Offset>.02 0 -.01</Offset><Power>1.1 1 .9</Power></SOPNode><SatNode><Saturation>.8</Saturation></SatNode></ASC_CDL>`,
    ]),
  ),
};
const read = (nodes: string) => {
  const found = parseClf(
    `<?xml version="1.0"?>\n<ProcessList id="p" compCLFversion="3.0" name="p">\n${nodes}\n</ProcessList>`,
  );
  if ('fault' in found) throw new Error(found.fault.message);
  return found.value;
};
const picture = (nodes: string, space = 'srgb') => {
  const values = { lut: processValue('p', read(nodes).nodes), takes: space, gives: space };
  return lowerStep(stepOf('lut')!, leafOf(planes, N, 1, 'encoded'), values, 1, {
    frame: 0,
    seconds: 0,
    rate: [25, 1] as const,
    seed: 1,
    width: N,
    height: 1,
  });
};

describe('a process list in a LUT step', () => {
  it.each(Object.entries(NODES))(
    'with %s is the list itself within two millionths, from −0.5 to 2',
    (_, nodes) => {
      const image = engine.compute(picture(nodes));
      const { apply } = read(nodes);
      let most = 0;
      for (let i = 0; i < N; i++)
        apply([planes[0]![i]!, planes[1]![i]!, planes[2]![i]!]).forEach((truth, c) => {
          most = Math.max(
            most,
            Math.abs(engine.memory.plane(image, c)[i]! - truth) / Math.max(1, Math.abs(truth)),
          );
        });
      expect(most).toBeLessThan(2e-6);
    },
  );

  it('runs node after node, with the same bits in both single back ends', () => {
    const all = [
      'a matrix with offsets',
      'monCurveFwd',
      'a cube by all corners',
      'a gamma as a table',
      'a table over half floats',
      'log2',
    ];
    expect(bitsThatDiffer(engine, picture(all.map((n) => NODES[n]).join('')))).toBe(0);
  });

  it.each([
    [
      '<LUT1D ' + D + ' interpolation="cubic"><Array dim="2 1">0 1</Array></LUT1D>',
      /LUT1D: interpolation "cubic" is not read/,
    ],
    [
      '<LUT1D ' + D + ' hueAdjust="abc"><Array dim="2 1">0 1</Array></LUT1D>',
      /hueAdjust "abc" is not read/,
    ],
    [
      '<LUT1D ' + D + '><IndexMap dim="2">0 1</IndexMap><Array dim="2 1">0 1</Array></LUT1D>',
      /IndexMap: it is not read in LUT1D/,
    ],
    [
      '<Matrix ' + D + ' bypass="true"><Array dim="3 3">1 0 0 0 1 0 0 0 1</Array></Matrix>',
      /Matrix: bypass is not read/,
    ],
    ['<Range ' + D + ' style="soft"/>', /the style "soft" is not read/],
    ['<LUT1D ' + D + ' halfDomain="true"><Array dim="2 1">0 1</Array></LUT1D>', /65536 entries/],
    [
      '<LUT1D ' + D + ' rawHalfs="true"><Array dim="2 1">0 31744</Array></LUT1D>',
      /not the bits of a finite half float/,
    ],
  ])('names what it does not read: %s', (nodes, words) => {
    expect(() => read(nodes)).toThrow(words);
  });
});
