import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  bake,
  inOneLine,
  lutFromFile,
  notBakeable,
  parseCdl,
  parseClf,
  parseCube,
  type Parsed,
  writeCdl,
  writeCube,
} from '.';
import { edit } from '..';
import { Engine } from '../engine';
import { codesToLight, toCodes } from '../image';
import { tetrahedral } from '../kernel';
import { emptyLook, type LookDocument, shippedLook } from '../look';
import { coloursOf, cubeValue, unsuited } from '../parameters';
import { plan } from '../plan';
import { stepOf } from '../steps';
import { leafOf, randomFrom } from '../testing';

const faultOf = <T>(read: Parsed<T>): string =>
  'fault' in read ? inOneLine('file', read.fault) : 'no fault';
const valueOf = <T>(read: Parsed<T>): T => {
  if ('fault' in read) throw new Error(inOneLine('file', read.fault));
  return read.value;
};
const small =
  'TITLE "warm"\n# by hand\nLUT_3D_SIZE 2\nDOMAIN_MIN 0 0 0\nDOMAIN_MAX 1 1 2\n0 0 0\n1 0 0\n0 1 0\n1 1 0\n0 0 1\n1 0 1\n0 1 1\n1 1 1\n';

describe('.cube files', () => {
  it('are read with title, domain, comments and any line ends', () => {
    for (const ends of ['\n', '\r\n', '\r']) {
      const cube = valueOf(parseCube(small.replace(/\n/g, ends)));
      expect([cube.name, cube.kind, cube.size, cube.hi]).toEqual(['warm', '3d', 2, [1, 1, 2]]);
      expect([...coloursOf(cube)!.slice(3, 9)]).toEqual([1, 0, 0, 0, 1, 0]);
    }
  });

  it('of one dimension, with an input range, are read', () => {
    const cube = valueOf(
      parseCube('LUT_1D_SIZE 3\nLUT_1D_INPUT_RANGE -0.5 1.5\n0 0 0\n.5 .25 1e-1\n1 1 1'),
    );
    expect([cube.kind, cube.size, cube.lo[0], cube.hi[2]]).toEqual(['1d', 3, -0.5, 1.5]);
  });

  it('written and read again are the same to the last bit', () => {
    fc.assert(
      fc.property(
        fc.array(fc.float({ noNaN: true, noDefaultInfinity: true }), {
          minLength: 24,
          maxLength: 24,
        }),
        fc.tuple(
          fc.float({ min: -2, max: 0, noNaN: true }),
          fc.float({ min: Math.fround(0.1), max: 4, noNaN: true }),
        ),
        (numbers, [lo, hi]) => {
          const colours = Float32Array.from(numbers);
          const cube = cubeValue('any', '3d', 2, colours, [lo, lo, lo], [hi, 1, hi]);
          const again = valueOf(parseCube(writeCube(cube, colours), 'any'));
          // Minus zero is written as 0.
          expect([...coloursOf(again)!].map((v) => v + 0)).toEqual(numbers.map((v) => v + 0));
          expect(again.lo.map((v) => Math.fround(v) + 0)).toEqual(
            cube.lo.map((v) => Math.fround(v) + 0),
          );
          expect(again.hi.map(Math.fround)).toEqual(cube.hi.map(Math.fround));
        },
      ),
    );
  });

  it('that are wrong say what and where', () => {
    expect(faultOf(parseCube('LUT_3D_SIZE 2\n0 0 0\n1 1 nan'))).toBe(
      'file, line 3: "nan" is no number',
    );
    expect(faultOf(parseCube('LUT_3D_SIZE 2\n0 0\n'))).toMatch(
      /line 2: an entry has three numbers, this line has 2/,
    );
    expect(faultOf(parseCube('LUT_3D_SIZE 999\n'))).toMatch(
      /line 1: LUT_3D_SIZE must be one whole number from 2 to 65/,
    );
    expect(faultOf(parseCube(`${small}0 0 0\n`))).toMatch(
      /line 14: there are more than the 8 entries/,
    );
    expect(faultOf(parseCube(small.split('\n').slice(0, 10).join('\n')))).toMatch(
      /ends after 5 of 8 entries/,
    );
    expect(faultOf(parseCube('0 0 0'))).toMatch(/line 1: numbers stand before/);
    expect(faultOf(parseCube('LUT_3D_SIZE 2\nLUT_1D_SIZE 2\n'))).toMatch(
      /line 2: holds a curve and a cube/,
    );
    expect(faultOf(parseCube('LUT_1D_SIZE 2\nDOMAIN_MIN 1 1 1\n0 0 0\n1 1 1'))).toMatch(
      /DOMAIN_MIN must lie below/,
    );
    expect(faultOf(parseCube('LUT_1D_SIZE 2\n1e99 0 0\n'))).toMatch(/line 2: 1e99 is too large/);
    expect(faultOf(parseCube(''))).toMatch(/names no size/);
    expect(faultOf(parseCube('x'.repeat(5000)))).toMatch(/line 1: the line is longer/);
  });

  it('never make the reader throw, whatever happened to them', () => {
    fc.assert(
      fc.property(
        fc.nat(small.length - 1),
        fc.nat(40),
        fc.string({ maxLength: 12 }),
        (at, cut, put) => {
          parseCube(small.slice(0, at) + put + small.slice(at + cut));
        },
      ),
      { numRuns: 300 },
    );
  });
});

const list = {
  id: 'a "b"',
  slope: [1.1, 0.9, 1.25],
  offset: [-0.02, 0, 0.015625],
  power: [1, 1.4, 0.8],
  saturation: 0.85,
} as const;

describe('colour decision lists', () => {
  it.each(['cc', 'ccc', 'cdl'] as const)(
    'written as .%s are read again, number for number',
    (kind) => {
      const [again, ...more] = valueOf(
        parseCdl(writeCdl(kind, kind === 'cc' ? [list] : [list, { ...list, id: 'second' }])),
      );
      expect(again).toEqual({ ...list });
      expect(more.map((c) => c.id)).toEqual(kind === 'cc' ? [] : ['second']);
    },
  );

  it('leave what they do not name at rest', () => {
    expect(
      valueOf(
        parseCdl(
          '<ColorCorrection><SatNode><Saturation>0.5</Saturation></SatNode></ColorCorrection>',
        ),
      )[0],
    ).toEqual({
      id: 'correction-1',
      slope: [1, 1, 1],
      offset: [0, 0, 0],
      power: [1, 1, 1],
      saturation: 0.5,
    });
  });

  it('that are wrong say what and where', () => {
    const one = (slope: string) =>
      `<ColorCorrection>\n<SOPNode>\n<Slope>${slope}</Slope></SOPNode></ColorCorrection>`;
    expect(faultOf(parseCdl(one('1 1')))).toBe('file, line 3: Slope needs three numbers');
    expect(faultOf(parseCdl(one('1 1 -2')))).toMatch(/line 3: Slope must not be below 0/);
    expect(faultOf(parseCdl(one('NaN 1 1')))).toMatch(/line 3: Slope needs three numbers/);
    expect(faultOf(parseCdl('<LookList/>'))).toMatch(/"LookList" is not the root/);
    expect(faultOf(parseCdl('<ColorDecisionList/>'))).toMatch(/holds no ColorCorrection/);
    expect(faultOf(parseCdl('<ColorCorrection>\n<SOPNode>'))).toMatch(/line 2: /);
    expect(faultOf(parseCdl('no xml'))).toMatch(/line 1: /);
  });

  it('cannot make the reader grow: no document types, no depth, no flood of words', () => {
    const laughs =
      '<!DOCTYPE l [<!ENTITY a "ha"><!ENTITY b "&a;&a;&a;&a;">]>\n<ColorCorrection>&b;</ColorCorrection>';
    expect(faultOf(parseCdl(laughs))).toMatch(/line 1: a document type declaration is not allowed/);
    expect(faultOf(parseCdl('<a>'.repeat(100)))).toMatch(/more than 16 deep/);
    expect(faultOf(parseCdl(`<ColorCorrection>${'1 '.repeat(300_000)}</ColorCorrection>`))).toMatch(
      /more text than the format can mean/,
    );
    expect(faultOf(parseCdl('x'.repeat(65 * 2 ** 20)))).toMatch(/larger than 64 MiB/);
  });
});

const clf = (nodes: string): string =>
  `<?xml version="1.0"?>\n<ProcessList id="p" compCLFversion="3.0" name="p">\n${nodes}\n</ProcessList>`;
const D = 'inBitDepth="32f" outBitDepth="32f"';
const through = (nodes: string, c: readonly [number, number, number]) =>
  valueOf(parseClf(clf(nodes))).apply(c);

describe('process lists', () => {
  it('apply matrices with offsets and bit depths', () => {
    expect(
      through(
        `<Matrix ${D}><Array dim="3 4">1 0 0 .1  0 2 0 0  0 0 1 -.5</Array></Matrix>`,
        [0.5, 0.25, 1],
      ),
    ).toEqual([0.6, 0.5, 0.5]);
    const [r] = through(
      '<Matrix inBitDepth="10i" outBitDepth="8i"><Array dim="3 3">0.2492668622 0 0 0 1 0 0 0 1</Array></Matrix>',
      [1, 0, 0],
    );
    expect(r).toBeCloseTo(1, 8);
  });

  it('apply ranges, held or not', () => {
    const range = (style: string) =>
      `<Range ${D} ${style}><minInValue>0.1</minInValue><maxInValue>0.9</maxInValue><minOutValue>0</minOutValue><maxOutValue>1</maxOutValue></Range>`;
    through(range(''), [0.1, 0.5, 2]).forEach((v, i) => expect(v).toBeCloseTo([0, 0.5, 1][i]!, 12));
    expect(through(range('style="noClamp"'), [0.1, 0.5, 1.7])[2]).toBeCloseTo(2, 12);
  });

  it('apply tables of one and three dimensions, blue changing fastest in the latter', () => {
    expect(
      through(
        `<LUT1D inBitDepth="32f" outBitDepth="10i"><Array dim="3 1">0 1023 0</Array></LUT1D>`,
        [0.25, 0.5, 2],
      ),
    ).toEqual([0.5, 1, 0]);
    const blueFast = '0 0 0  0 0 1  0 1 0  0 1 1  1 0 0  1 0 1  1 1 0  1 1 1';
    through(
      `<LUT3D ${D}><Array dim="2 2 2 3">${blueFast}</Array></LUT3D>`,
      [0.2, 0.5, 0.9],
    ).forEach((v, i) => expect(v).toBeCloseTo([0.2, 0.5, 0.9][i]!, 12));
  });

  it('apply decision lists and turn them back', () => {
    const node = (style: string) =>
      `<ASC_CDL ${D} style="${style}"><SOPNode><Slope>1.2 1 .9</Slope><Offset>.02 0 -.01</Offset><Power>1.1 1 .9</Power></SOPNode><SatNode><Saturation>.8</Saturation></SatNode></ASC_CDL>`;
    through(node('FwdNoClamp') + node('RevNoClamp'), [0.3, 0.4, 0.6]).forEach((v, i) =>
      expect(v).toBeCloseTo([0.3, 0.4, 0.6][i]!, 6),
    );
  });

  it('apply logarithms of every style', () => {
    expect(through(`<Log ${D} style="log2"/>`, [8, 1, 0.5])).toEqual([3, 0, -1]);
    through(`<Log ${D} style="log10"/><Log ${D} style="antiLog10"/>`, [0.2, 1, 7]).forEach((v, i) =>
      expect(v).toBeCloseTo([0.2, 1, 7][i]!, 6),
    );
    // ACEScct by its camera form (Academy S-2016-001): 0.18 is 0.4135884.
    const cct =
      'base="2" logSideSlope="0.0570776255707762" logSideOffset="0.554794520547945" linSideBreak="0.0078125"';
    const camera = (style: string) => `<Log ${D} style="${style}"><LogParams ${cct}/></Log>`;
    const [grey, dark] = through(camera('cameraLinToLog'), [0.18, 0, 1]);
    expect(grey).toBeCloseTo(0.4135884, 6);
    expect(dark).toBeCloseTo(0.0729055, 5);
    through(camera('cameraLinToLog') + camera('cameraLogToLin'), [-0.001, 0.18, 4]).forEach(
      (v, i) => expect(v).toBeCloseTo([-0.001, 0.18, 4][i]!, 6),
    );
  });

  it('apply an Exponent to the channels that it names, and leave the others', () => {
    const params = (channel: string, exponent: number) =>
      `<ExponentParams channel="${channel}" exponent="${exponent}"/>`;
    const node = `<Exponent ${D} style="basicFwd">${params('R', 2)}${params('B', 3)}</Exponent>`;
    const read = parseClf(clf(node));
    if ('fault' in read) throw new Error(read.fault.message);
    const [curves] = read.value.nodes;
    expect(curves).toMatchObject({
      node: 'curves',
      curves: [
        { f: 'power', exponent: 2 },
        { f: 'power', exponent: 1, below: 'pass' },
        { f: 'power', exponent: 3 },
      ],
    });
  });
  it('apply exponents: the monitor curve is the sRGB one', () => {
    const srgb = (style: string) =>
      `<Exponent ${D} style="${style}"><ExponentParams exponent="2.4" offset="0.055"/></Exponent>`;
    const [mid, low] = through(srgb('monCurveFwd'), [0.5, 0.02, 1]);
    expect(mid).toBeCloseTo(0.2140411, 6);
    expect(low).toBeCloseTo(0.02 / 12.92, 5);
    through(srgb('monCurveMirrorFwd') + srgb('monCurveMirrorRev'), [-0.3, 0.02, 1.5]).forEach(
      (v, i) => expect(v).toBeCloseTo([-0.3, 0.02, 1.5][i]!, 6),
    );
    through(
      `<Exponent ${D} style="basicPassThruFwd"><ExponentParams exponent="2"/></Exponent>`,
      [-0.5, 0.5, 3],
    ).forEach((v, i) => expect(v).toBeCloseTo([-0.5, 0.25, 9][i]!, 12));
  });

  it('that are wrong say what and where', () => {
    expect(
      faultOf(
        parseClf(
          clf('<Matrix inBitDepth="32f" outBitDepth="32f"><Array dim="3 3">1 0 0</Array></Matrix>'),
        ),
      ),
    ).toBe('file, line 3: Array: dim 3 3 needs 9 numbers, there are 3');
    expect(faultOf(parseClf(clf('<GammaThing/>')))).toMatch(
      /line 3: the node "GammaThing" is not read/,
    );
    expect(faultOf(parseClf(clf(`<Log ${D} style="odd"/>`)))).toMatch(
      /Log: the style "odd" is not read/,
    );
    expect(
      faultOf(parseClf(clf(`<LUT3D ${D}><Array dim="500 500 500 3">1</Array></LUT3D>`))),
    ).toMatch(/larger than can be read/);
    expect(faultOf(parseClf(clf('')))).toMatch(/holds no node/);
    expect(faultOf(parseClf('<!DOCTYPE x><ProcessList/>'))).toMatch(/document type/);
  });

  it('never make the reader throw, whatever happened to them', () => {
    const whole = clf(
      `<Matrix ${D}><Array dim="3 3">1 0 0 0 1 0 0 0 1</Array></Matrix><Exponent ${D} style="basicFwd"><ExponentParams exponent="2"/></Exponent>`,
    );
    fc.assert(
      fc.property(
        fc.nat(whole.length - 1),
        fc.nat(60),
        fc.string({ maxLength: 12 }),
        (at, cut, put) => {
          parseClf(whole.slice(0, at) + put + whole.slice(at + cut));
        },
      ),
      { numRuns: 300 },
    );
  });

  it('stay lists of nodes for a LUT step', () => {
    const read = lutFromFile(
      'dir/gamma.clf',
      clf(`<Exponent ${D} style="basicFwd"><ExponentParams exponent="2"/></Exponent>`),
    );
    if ('fault' in read) throw new Error(read.fault.message);
    expect(read.value).toMatchObject({
      kind: 'process',
      nodes: [
        { node: 'curves', curves: Array(3).fill({ f: 'power', exponent: 2, below: 'zero' }) },
      ],
    });
    expect(unsuited(stepOf('lut')!.parameters[0]!, read.value)).toBeUndefined();
    expect(
      unsuited(stepOf('lut')!.parameters[0]!, { ...read.value, name: 'other', key: 'x' }),
    ).toMatch(/whole table/);
    expect('fault' in lutFromFile('x.png', '')).toBe(true);
  });
});

describe('baking', () => {
  const lookOf = (...steps: [string, Record<string, number>][]): LookDocument => {
    let look: LookDocument = {
      ...emptyLook('Baked'),
      layers: [edit.newLayer('layer', 'clip', [])],
    };
    for (const [id, values] of steps) {
      look = edit.addStep(look, 'layer', edit.newStep(stepOf(id)!, []));
      for (const [name, v] of Object.entries(values))
        look = edit.setConstant(look, 'layer', look.layers[0]!.steps.at(-1)!.key, name, v);
    }
    return look;
  };

  it('names what looks at more than a colour, and nothing else', () => {
    const names = notBakeable(
      lookOf(
        ['contrast', { amount: 20 }],
        ['blur', { radius: 9 }],
        ['grain', { amount: 10 }],
        ['vignette', { stops: -1 }],
        ['hue-bands', {}],
      ),
    );
    expect(names).toEqual(['layer: Blur', 'layer: Grain', 'layer: Vignette']);
    // The finest grain fades in small pictures, but it still counts as grain.
    expect(notBakeable(lookOf(['grain', { amount: 10, clouds: 25 }]))).toEqual(['layer: Grain']);
    expect(
      notBakeable({
        ...lookOf(['contrast', { amount: 20 }]),
        frame: { shape: [4, 3], lies: 'bars', rounded: 0 },
      }),
    ).toEqual(['its frame']);
    expect(notBakeable(shippedLook('soft-lens')!)).not.toEqual([]);
  });

  it('of an affine look is exact, and a smaller cube is less exact than a larger one', () => {
    const straight = lookOf(['contrast', { amount: 20 }]);
    expect(bake(straight, { size: 5, takes: 'srgb', gives: 'srgb' }).largestError).toBeLessThan(
      2e-6,
    );
    const bent = lookOf(['three-way', { gamma: 30 }], ['saturation', { amount: 130 }]);
    const [coarse, fine] = [9, 33].map(
      (size) => bake(bent, { size, takes: 'srgb', gives: 'srgb' }).largestError,
    ) as [number, number];
    expect(fine).toBeLessThan(coarse / 2);
  });

  it('gives the cube that the LUT step then applies as the look itself', () => {
    const look = lookOf(
      ['contrast', { amount: 35 }],
      ['cdl', { 'power-red': 1.2, saturation: 0.7 }],
    );
    const { cube } = bake(look, { size: 33, takes: 'srgb', gives: 'srgb' });
    let viaLut: LookDocument = {
      ...emptyLook('Via'),
      layers: [edit.newLayer('layer', 'clip', [])],
    };
    viaLut = edit.addStep(viaLut, 'layer', edit.newStep(stepOf('lut')!, []));
    viaLut = edit.setConstant(viaLut, 'layer', 'lut', 'lut', cube);
    const [a, b] = [look, viaLut].map(
      (l) => bake(l, { size: 17, takes: 'srgb', gives: 'srgb' }).colours,
    ) as [Float32Array, Float32Array];
    expect(Math.max(...a.map((v, i) => Math.abs(v - b[i]!)))).toBeLessThan(5e-3);
  });
});

describe('what no cube can hold', () => {
  const layer = (more: object) => ({
    ...emptyLook('Bake'),
    layers: [{ ...edit.newLayer('a', 'clip', [], [edit.newStep(stepOf('invert')!, [])]), ...more }],
  });
  const matte = (id: string, parameters = {}) => ({
    mattes: [{ key: 'm', matte: id, on: true, combine: 'or' as const, invert: false, parameters }],
  });
  it.each([
    ['a shape', layer(matte('ellipse')), ['a: its mattes']],
    [
      'a drawn path',
      layer(
        matte('path', {
          path: {
            value: [
              [0, 0, 0, 0, 0, 0],
              [1, 0, 0, 0, 0, 0],
              [0, 1, 0, 0, 0, 0],
            ],
          },
        }),
      ),
      ['a: its mattes'],
    ],
    [
      'a share of the clip',
      layer(matte('luma-key', { count: { value: 'share' } })),
      ['a: what is measured of each clip'],
    ],
    ['placement', layer({ placement: { turn: { value: 20 } } }), ['a: its placement']],
    ['other footage', layer({ source: 'footage', from: 'p' }), ['a: other footage']],
  ])('%s is named', (_, look, names) => expect(notBakeable(look as never)).toEqual(names));
  it('a key by value alone looks at nothing but colour', () => {
    expect(notBakeable(layer(matte('luma-key', { low: { value: 30 } })) as never)).toEqual([]);
    expect(notBakeable(layer(matte('chroma-key')) as never)).toEqual([]);
  });
});

describe('a baked look', () => {
  it('says an error that a hundred thousand other places do not exceed', () => {
    const look = shippedLook('silt')!;
    const { colours, largestError } = bake(look, { size: 17, takes: 'srgb', gives: 'srgb' });
    const random = randomFrom(99),
      n = 100_000;
    const at = [0, 1, 2].map(() => Float32Array.from({ length: n }, random));
    const engine = new Engine({ limit: 1 << 28, helpers: 0 });
    const time = { frames: 1, rate: [1, 1] as const, cues: {} };
    const bedrock = codesToLight(leafOf(at, n, 1, 'none'), 'srgb');
    const { result } = plan(look, { bedrock, content: 'x', frame: 0, time, encoding: 'srgb' }, {});
    const image = engine.compute(toCodes(result, 'srgb'));
    const truth = [0, 1, 2].map((p) => engine.memory.plane(image, p));
    const table = { layout: { kind: 'cube', n: 17 }, colours } as const;
    let most = 0;
    for (let i = 0; i < n; i++)
      for (let c = 0; c < 3; c++) {
        const place = at.map((p) => p[i]!);
        most = Math.max(most, Math.abs(tetrahedral(table, place, c) - truth[c]![i]!));
      }
    expect(most).toBeLessThanOrEqual(largestError);
    expect(most).toBeGreaterThan(largestError / 3);
  });
});
