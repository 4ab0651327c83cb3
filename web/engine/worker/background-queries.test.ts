import { afterEach, describe, expect, it } from 'vitest';
import { edit, emptyLook, type GoalFigures, type RawFrame, SHIPPED, stepOf } from '../../../core';
import { Engine } from '../../../core/engine';
import type { EngineClip, FromEngine, Shot } from '../protocol';
import { BackgroundQueries, type QueryContext, findHole } from './background-queries';
import type { ViewRenderer } from './view-renderer';
import { FrameLoader } from './frame-loader';

const [W, H] = [64, 36];
const FORMAT = {
  width: W,
  height: H,
  layout: 'rgb',
  chroma: [1, 1],
  depth: 8,
  alpha: false,
  full: true,
  matrix: 'bt709',
} as const;
const clip = {
  id: 'a',
  hash: 'aa',
  format: FORMAT,
  encoding: 'srgb',
  fit: 'fit',
  reframe: null,
  balance: null,
  plate: null,
  pins: {},
  pixelAspect: 1,
  frames: 3,
  rate: [25, 1],
  whole: null,
  slots: null,
  proxies: {},
} as unknown as EngineClip;
/** A ramp from left to right whose brightness is the frame's number. */
const rawAt = (frame: number): RawFrame => {
  const ramp = Uint8Array.from({ length: W * H }, (_, i) =>
    Math.round(((i % W) / W) * 120 + frame * 40),
  );
  return {
    format: FORMAT as unknown as RawFrame['format'],
    planes: [ramp, ramp, ramp],
    key: `aa:${frame}`,
  };
};

/** A frame loader that needs no server. */
class Ramps extends FrameLoader {
  asked: string[] = [];
  override async frame(c: EngineClip, frame: number): Promise<RawFrame> {
    this.asked.push(`${c.id}:${frame}`);
    if (frame === 99) throw new Error('the exact frame could not be fetched');
    return c.format.alpha ? holed(frame) : rawAt(frame);
  }
}
const holed = (frame: number): RawFrame => {
  const plain = new Uint8Array(W * H).fill(90);
  const cover = Uint8Array.from({ length: W * H }, (_, i) =>
    i % W > 16 && i % W < 48 && i / W > 9 && i / W < 27 ? 0 : 255,
  );
  return {
    format: { ...FORMAT, alpha: true } as unknown as RawFrame['format'],
    planes: [plain, plain, plain, cover],
    key: `h:${frame}`,
  };
};

const engines: Engine[] = [];
function bench(more: Partial<QueryContext> = {}) {
  const said: FromEngine[] = [];
  const computer = new Engine({ limit: 1 << 27, helpers: 0 });
  engines.push(computer);
  const shots = new Ramps();
  shots.know([
    clip,
    { ...clip, id: 'sign', hash: 'h', format: { ...FORMAT, alpha: true } } as unknown as EngineClip,
  ]);
  let waits = 0;
  const beside: QueryContext = {
    shots,
    screen: () => Promise.resolve({ computer } as unknown as ViewRenderer),
    out: () => 'srgb',
    post: (m) => said.push(m),
    inQuiet: async () => void waits++,
    ...more,
  };
  return { beside, queries: new BackgroundQueries(beside), shots, said, waits: () => waits };
}
afterEach(() => engines.splice(0).forEach((e) => e.close()));
const until = async (done: () => boolean): Promise<void> => {
  for (let i = 0; i < 400 && !done(); i++) await new Promise((r) => setTimeout(r, 5));
  expect(done()).toBe(true);
};

const plain = emptyLook('Plain');
const brighter = edit.addLayer(
  plain,
  edit.newLayer(
    'lift',
    'below',
    [],
    [{ ...edit.newStep(stepOf('exposure')!, []), parameters: { stops: { value: 1 } } }],
  ),
);
const nothing = edit.addLayer(
  brighter,
  edit.newLayer('empty', 'below', ['lift'], [edit.newStep(stepOf('exposure')!, [])]),
);

describe('a survey', () => {
  it('gives the figures of each look, as means over the frames, and gives way after each', async () => {
    const { queries, said, shots, waits } = bench();
    queries.survey({
      kind: 'survey',
      id: 4,
      clip: 'a',
      frames: [0, 1],
      looks: [plain, brighter],
      width: W,
      height: H,
    });
    queries.survey({
      kind: 'survey',
      id: 5,
      clip: 'a',
      frames: [1],
      looks: [plain],
      width: W,
      height: H,
    });
    await until(() => said.length === 2);
    const [both, single] = said as { kind: 'surveyed'; id: number; figures: GoalFigures[] }[];
    expect([both!.id, single!.id]).toEqual([4, 5]);
    expect(shots.asked).toEqual(['a:0', 'a:1', 'a:1']);
    expect(waits()).toBe(5);
    expect(both!.figures[1]!.middle).toBeGreaterThan(both!.figures[0]!.middle * 1.2);
    // The second frame is brighter by 40 codes everywhere, so the mean of both is brighter by 20.
    expect(single!.figures[0]!.bright - both!.figures[0]!.bright).toBeCloseTo((20 / 255) * 100, 0);
  });

  it('says what went wrong and ends all the same; of a clip that is not known there are no figures', async () => {
    const { queries, said } = bench();
    queries.survey({
      kind: 'survey',
      id: 1,
      clip: 'a',
      frames: [0, 99],
      looks: [plain],
      width: W,
      height: H,
    });
    queries.survey({
      kind: 'survey',
      id: 2,
      clip: 'nobody',
      frames: [0],
      looks: [plain],
      width: W,
      height: H,
    });
    await until(() => said.length === 3);
    expect(said[0]).toMatchObject({
      kind: 'trouble',
      message: 'the exact frame could not be fetched',
    });
    expect(said[1]).toMatchObject({ kind: 'surveyed', id: 1 });
    expect((said[1] as unknown as { figures: GoalFigures[] }).figures).toHaveLength(1);
    expect(said[2]).toEqual({ kind: 'surveyed', id: 2, figures: [] });
  });
});

describe('what does nothing', () => {
  const shot = (look: Shot['look']): Shot => ({ clip: 'a', frame: 1, look, from: 540 });

  it('is found of a shot, by layer and step', async () => {
    const { queries, said } = bench();
    queries.ask({ kind: 'ask', id: 1, shot: shot(nothing), width: W, height: H });
    await until(() => said.length === 1);
    const { idle } = said[0] as { idle: Record<string, string> };
    expect(Object.keys(idle)).toContain('empty');
    expect(Object.keys(idle)).not.toContain('lift');
  });

  it('is answered for the newest question alone', async () => {
    const { queries, said } = bench();
    for (const look of [SHIPPED[0]!.look, brighter, nothing])
      queries.ask({ kind: 'ask', id: 1, shot: shot(look), width: W, height: H });
    await until(() => said.length > 0);
    await new Promise((r) => setTimeout(r, 50));
    expect(said).toHaveLength(1);
    expect(Object.keys((said[0] as { idle: object }).idle)).toContain('empty');
  });

  it('is left where a newer question came meanwhile', async () => {
    let go: (() => void) | undefined;
    let waits = 0;
    const held = bench({
      inQuiet: () => (waits++ === 0 ? new Promise<void>((r) => (go = r)) : Promise.resolve()),
    });
    held.queries.ask({ kind: 'ask', id: 1, shot: shot(nothing), width: W, height: H });
    await until(() => go !== undefined);
    held.queries.ask({ kind: 'ask', id: 2, shot: shot(brighter), width: W, height: H });
    go!();
    await until(() => held.said.length > 0);
    expect(held.said).toEqual([{ kind: 'answered', id: 2, idle: {} }]);
  });
});

describe('the hole of footage', () => {
  it('is found by its coverage, and footage without coverage has none', async () => {
    const { beside, said } = bench();
    await findHole({ kind: 'hole', id: 7, clip: 'sign' }, beside);
    await findHole({ kind: 'hole', id: 8, clip: 'a' }, beside);
    await findHole({ kind: 'hole', id: 9, clip: 'nobody' }, beside);
    const [found, none, unknown] = said as {
      id: number;
      corners: readonly (readonly [number, number])[] | null;
    }[];
    expect([found!.id, none, unknown]).toEqual([
      7,
      { kind: 'hole', id: 8, corners: null },
      { kind: 'hole', id: 9, corners: null },
    ]);
    const wanted = [
      [17 / W, 10 / H],
      [48 / W, 10 / H],
      [48 / W, 27 / H],
      [17 / W, 27 / H],
    ];
    found!.corners!.forEach(([x, y], i) => {
      expect(Math.abs(x - wanted[i]![0]!)).toBeLessThan(1.5 / W);
      expect(Math.abs(y - wanted[i]![1]!)).toBeLessThan(1.5 / H);
    });
  });
});
