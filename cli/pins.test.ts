/** Pins given on the command line. */
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
import { emptyLook, type LookDocument } from '../core';
import { Usage, type Words } from './args';
import { pinsFrom } from './pins';
import { cli } from './testing';

const look: LookDocument = {
  ...emptyLook('Asking'),
  pins: [
    { key: 'eyes', label: 'Eyes', kind: 'point', many: true },
    { key: 'edge', label: 'Edge', kind: 'line', many: false },
    { key: 'hit', label: 'Hit', kind: 'cue', many: true },
    { key: 'face', label: 'Face', kind: 'oval', many: false },
    { key: 'figure', label: 'Figure', kind: 'matte', many: false },
    { key: 'second', label: 'Second', kind: 'footage', many: false },
  ] as never,
};
const words = (...pins: string[]): Words => ({ flags: new Map([['pin', pins]]) });
const given = async (...pins: string[]) => (await pinsFrom(words(...pins), look)).pins;
const refusal = (...pins: string[]): Promise<string> =>
  pinsFrom(words(...pins), look).then(
    () => 'taken',
    (e: unknown) => {
      if (!(e instanceof Usage)) throw e;
      return e.message;
    },
  );

describe('a pin', () => {
  it('of places is in per cent, several parted by semicolons', async () => {
    expect(await given('eyes=31.5,40;62,41')).toEqual({
      eyes: [
        { x: 0.315, y: 0.4 },
        { x: 0.62, y: 0.41 },
      ],
    });
  });

  it('of a line has two ends, of cues frames', async () => {
    expect(await given('edge=10,60,90,40', 'hit=12;28')).toEqual({
      edge: [{ x: 0.1, y: 0.6, x2: 0.9, y2: 0.4 }],
      hit: [{ frame: 12 }, { frame: 28 }],
    });
  });

  it('of an oval has its sizes and turn, or is a point; a matte may be drawn by hand', async () => {
    const face = { x: 0.46, y: 0.5, rx: 0.12, ry: 0.18, turn: -5 };
    expect(await given('face=46,50,12,18,-5')).toEqual({ face: [face] });
    expect(await given('face=46,50')).toEqual({ face: [{ x: 0.46, y: 0.5 }] });
    const corner = (x: number, y: number) => [x, y, 0, 0, 0, 0];
    expect(await given('figure=10,10 90,10 50,90')).toEqual({
      figure: [{ nodes: [corner(0.1, 0.1), corner(0.9, 0.1), corner(0.5, 0.9)] }],
    });
    expect(await refusal('face=46,50,12')).toMatch(/must be an oval like .*, or a point like/);
  });

  it('of footage has its start, its speed, and words on how it lies', async () => {
    const { pins, others } = await pinsFrom(
      words('second=demo/footage/gulls.mp4@-12*0.5,hold,fill,lies=40:60:120,at=hit'),
      look,
    );
    expect(pins['second']).toEqual([
      {
        hash: expect.stringMatching(/^[0-9a-f]{64}$/),
        start: -12,
        speed: 0.5,
        beyond: 'hold',
        fit: 'fill',
        reframe: { x: 0.4, y: 0.6, closer: 120 },
        at: { cue: 'hit' },
      },
    ]);
    expect(others['second']!.facts.frames).toBe(80);
    await others['second']!.leave?.();
  });

  it.each([
    [
      'ears=1,2',
      /the look asks for no pin "ears"; it asks for eyes, edge, hit, face, figure, second/,
    ],
    ['eyes=1', /--pin eyes must be a point like 31.5,40/],
    ['eyes=a,b', /--pin eyes must be a point like 31.5,40/],
    ['edge=1,2,3', /--pin edge must be a line like 10,60,90,40/],
    ['hit=-3', /--pin hit must be like 12/],
    ['hit=1.5', /--pin hit must be like 12/],
    ['second=x.mp4@3*0', /--pin second must be like clip.mp4/],
    ['second=x.mp4,sideways', /"sideways" is none of again/],
    ['second=x.mp4,lies=40:900', /"lies=40:900" is none of/],
  ])('%s is refused in words', async (pin, message) => {
    expect(await refusal(pin)).toMatch(message);
  });

  it('that asks for no footage is no plate', async () => {
    const plate: Words = { flags: new Map([['plate', ['eyes=dust.mp4']]]) };
    await expect(pinsFrom(plate, look)).rejects.toThrow(/asks for no footage: give it by --pin/);
  });

  it('that nobody gave is none', async () => {
    expect(await pinsFrom({ flags: new Map() }, look)).toEqual({
      pins: {},
      others: {},
      tracks: {},
      files: [],
    });
  });
});

describe('a track', () => {
  const folder = mkdtempSync(join(tmpdir(), 'track-'));
  afterAll(() => rmSync(folder, { recursive: true, force: true }));
  const clip = 'demo/footage/skyline.mp4';
  const file = join(folder, 'lamp.json'),
    table = join(folder, 'lamp.csv');

  it('is traced on footage, written, and taken by a pin', async () => {
    const { code, out } = await cli('trace', '--in', clip, '--mark', '20:42,48', '--out', file);
    expect([code, out]).toEqual([0, expect.stringMatching(/^75 frames: sure on \d+, /)]);
    const { pins, tracks } = await pinsFrom(words(`eyes=${file}`), look);
    expect(pins['eyes']).toEqual([{ trace: file }]);
    expect(tracks[file]!.places[20]).toEqual([0.42, 0.48, 2]);
  });

  it('by hand goes straight from mark to mark, also as a table', async () => {
    const marks = ['--mark', '0:10,20', '--mark', '10:30,40', '--by-hand'];
    expect((await cli('trace', '--in', clip, ...marks, '--out', table)).code).toBe(0);
    const rows = readFileSync(table, 'utf8').split('\n');
    expect(rows[0]).toBe('frame,x,y,sure');
    expect(rows[6]).toBe('5,0.2,0.3,1');
    const { tracks } = await pinsFrom(words(`eyes=${table}`), look);
    expect(tracks[table]!.places[5]).toEqual([0.2, 0.3, 1]);
  });

  it('of an oval is carried by what it lies on, and taken by a matte too', async () => {
    const oval = join(folder, 'oval.json');
    const kind = ['--kind', 'oval', '--mark', '4:42,48,10,10,0'];
    expect((await cli('trace', '--in', clip, ...kind, '--out', oval)).code).toBe(0);
    const { pins, tracks } = await pinsFrom(words(`face=${oval}`, `figure=${oval}`), look);
    expect(pins).toEqual({ face: [{ trace: oval }], figure: [{ trace: oval }] });
    expect(tracks[oval]).toMatchObject({ kind: 'oval' });
    expect(tracks[oval]!.places[4]).toEqual([0.42, 0.48, 0.1, 0.1, 0, 2]);
    expect(tracks[oval]!.places[60]).toHaveLength(6);
  });

  it('asks for what it needs in words', async () => {
    const said = async (...more: string[]) =>
      (await cli('trace', '--in', clip, '--out', file, ...more)).err;
    expect(await said()).toContain('--mark is missing');
    expect(await said('--mark', 'here')).toContain(
      'must be a frame, a colon, and a point like 31.5,40',
    );
    expect(await said('--mark', '999:10,10')).toContain('frames 0 to');
    expect(await said('--kind', 'star', '--mark', '0:1,1')).toContain('one of point, line, oval');
    const other = await cli('trace', '--in', clip, '--mark', '0:1,1', '--out', 'track.txt');
    expect(other.err).toContain('.json or .csv');
    writeFileSync(join(folder, 'none.json'), '{"places": [[1]]}');
    expect(await refusal(`eyes=${join(folder, 'none.json')}`)).toContain('it is no track');
    expect(await refusal('eyes=gone.json')).toContain('cannot be read');
  });
});

describe('a subject', () => {
  const folder = mkdtempSync(join(tmpdir(), 'subject-'));
  afterAll(() => rmSync(folder, { recursive: true, force: true }));
  const clip = 'demo/footage/white-room.mp4',
    strokes = join(folder, 'strokes.json');

  it('asks for strokes in words before anything is made', async () => {
    const said = async (text: string) => {
      writeFileSync(strokes, text);
      const out = join(folder, 'out.mkv');
      return (await cli('cut-out', '--in', clip, '--strokes', strokes, '--out', out)).err;
    };
    expect(await said('{')).toContain('it is not JSON');
    expect(await said('{}')).toContain('it has no "marks"');
    expect(await said('{"marks":[{"frame":0}]}')).toContain('marks[0] must be a "frame"');
    const stroke = { on: true, radius: 0.1, points: [0.5, 0.5] };
    const of = (frame: number, on: boolean) =>
      JSON.stringify({ marks: [{ frame, strokes: [{ ...stroke, on }] }] });
    expect(await said(of(9999, true))).toContain('the footage has the frames 0 to');
    expect(await said(of(0, false))).toContain('no stroke lies on the subject');
    const other = await cli('cut-out', '--in', clip, '--strokes', strokes, '--out', 'matte.mp4');
    expect(other.err).toContain('must end in .mkv');
  });

  it('is written as footage that a matte pin takes', async () => {
    const still = join(folder, 'still.png'),
      out = join(folder, 'matte.mkv');
    const black = 'color=black:s=96x64:d=1:r=1,format=gray,drawbox=32:16:32:32:white:fill';
    execFileSync('ffmpeg', [
      '-v',
      'error',
      '-y',
      '-f',
      'lavfi',
      '-i',
      black,
      '-frames:v',
      '1',
      still,
    ]);
    const marks = [
      {
        frame: 0,
        strokes: [
          { on: true, radius: 0.1, points: [0.5, 0.5] },
          { on: false, radius: 0.05, points: [0.1, 0.1, 0.9, 0.1] },
        ],
      },
    ];
    writeFileSync(strokes, JSON.stringify({ marks }));
    const made = await cli('cut-out', '--in', still, '--strokes', strokes, '--out', out);
    expect(made.code).toBe(0);
    expect(made.out).toContain('1 frames cut out, 1 of them marked');
    const gray = execFileSync('ffmpeg', [
      '-v',
      'error',
      '-i',
      out,
      '-f',
      'rawvideo',
      '-pix_fmt',
      'gray',
      '-',
    ]);
    expect(gray[32 * 96 + 48]).toBe(255);
    expect(gray[8 * 96 + 8]).toBe(0);
    const covered = gray.reduce((n, v) => n + (v >= 128 ? 1 : 0), 0);
    expect(Math.abs(covered - 32 * 32)).toBeLessThan(32);
  });
});
