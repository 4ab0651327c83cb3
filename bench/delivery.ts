/**
 * Measures whole deliveries at 1080p as processes: *Soft Lens* and *Silt* to MP4 and FFV1, from the
 * command line and in the Kiln, alternating with a comparable FFmpeg chain with the same encoder
 * settings. The encoder's share is the time to encode the finished frames alone. `BENCH_OF="silt
 * mkv"` limits it to the named looks and formats.
 */
import { execFileSync, spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { deliveryFormat, samplesFor, shippedLook, type VideoFormat } from '../core';
import { videoOutput } from '../server/render/write';
import { api, BASE, bringIn } from './browsing';

/** Looks and formats to measure. Default: all. */
const ONLY = (process.env['BENCH_OF'] ?? '').split(' ').filter(Boolean);
const isWanted = (name: string, of: readonly string[]): boolean =>
  !ONLY.some((o) => of.includes(o)) || ONLY.includes(name);
const SIZE = { width: 1920, height: 1080 };
const TURNS = 3,
  FRAMES = 50;
const CLIP = 'demo/footage/skyline.mp4';
const folder = mkdtempSync(join(tmpdir(), 'wabisabi-delivery-'));

/**
 * Comparable work in FFmpeg: two blurs screened over, a vignette and noise; or a grade of curves
 * and colours.
 */
const CHAINS: Record<string, string> = {
  'soft-lens':
    'format=gbrp,split=3[a][b][c];[b]gblur=sigma=12[b1];[c]gblur=sigma=30[c1];[a][b1]blend=all_mode=screen:all_opacity=0.3[d];[d][c1]blend=all_mode=screen:all_opacity=0.2,curves=all=0/0.03 0.5/0.5 1/0.96,vignette=PI/5,noise=alls=6:allf=t',
  silt: 'format=gbrp,curves=all=0/0 0.25/0.2 0.75/0.78 1/1,hue=s=0.4,colorbalance=rs=-.05:bs=.05,eq=contrast=1.1',
};

const timed = (command: string, args: readonly string[]): number => {
  const began = performance.now();
  const { status, stderr } = spawnSync(command, args, { encoding: 'utf8' });
  if (status !== 0) throw new Error(`${command}: ${stderr.slice(-400)}`);
  return (performance.now() - began) / 1000;
};
const middle = (all: readonly number[]): number =>
  [...all].sort((a, b) => a - b)[Math.floor(all.length / 2)]!;
const said = (all: readonly number[]): string =>
  `${middle(all).toFixed(1)} s (${all.map((v) => v.toFixed(1)).join(', ')})`;

/** A delivery of the clip in the Kiln: time from the order to the finished file. */
async function inKiln(project: string, clip: string, format: string): Promise<number> {
  const began = performance.now();
  const { id } = await api<{ id: string }>('POST', `/api/projects/${project}/deliveries`, {
    clips: [clip],
    format,
    ...SIZE,
  });
  for (;;) {
    const { deliveries } = await api<Kiln>('GET', `/api/projects/${project}/deliveries`);
    const item = deliveries.find((d) => d.id === id)!.items[0]!;
    if (item.state === 'done') return (performance.now() - began) / 1000;
    if (item.state === 'failed') throw new Error(item.error ?? 'failed');
    await pause(100);
  }
}
interface Kiln {
  readonly deliveries: readonly {
    readonly id: string;
    readonly items: readonly { readonly state: string; readonly error: string | null }[];
  }[];
}

/** A project with the measured clip under a look. */
async function prepared(look: string, file: string): Promise<{ project: string; id: string }> {
  const { id: project } = await api<{ id: string }>('POST', '/api/projects', {
    name: `Delivery ${look}`,
    ...SIZE,
    rateNum: 25,
    rateDen: 1,
  });
  const [id] = await bringIn(project, [file]);
  const { versionId } = await api<{ versionId: string }>('POST', '/api/looks', {
    document: shippedLook(look),
  });
  await api('POST', `/api/projects/${project}/clips`, {
    clips: [{ clip: id, was: { version: null }, to: { version: versionId } }],
  });
  for (;;) {
    const { clips } = await api<{ clips: { statistics: unknown }[] }>(
      'GET',
      `/api/projects/${project}`,
    );
    if (clips[0]!.statistics) return { project, id: id! };
    await pause(200);
  }
}

try {
  const clip = join(folder, 'clip.mkv');
  const tags = ['-colorspace', 'bt709', '-color_primaries', 'bt709', '-color_trc', 'bt709'];
  execFileSync('ffmpeg', [
    '-v',
    'error',
    '-i',
    CLIP,
    '-frames:v',
    String(FRAMES),
    '-vf',
    'scale=1920:1080',
    '-c:v',
    'libx264',
    '-crf',
    '12',
    ...tags,
    clip,
  ]);
  console.log(
    `${FRAMES} frames of 1920×1080, ${TURNS} turns each in turn, whole processes; median (all)`,
  );
  for (const [look, chain] of Object.entries(CHAINS)) {
    if (!isWanted(look, Object.keys(CHAINS))) continue;
    const kiln = BASE ? await prepared(look, clip) : undefined;
    for (const format of ['mp4', 'mkv'] as const) {
      if (!isWanted(format, ['mp4', 'mkv'])) continue;
      const samples = samplesFor(format, 'bt709');
      const encoder = videoOutput(deliveryFormat(format) as VideoFormat, {
        samples,
        encoding: 'bt709',
        size: SIZE,
        effort: 'usual',
      });
      const [ours, theirs, alone, ordered] = [[], [], [], []] as [
        number[],
        number[],
        number[],
        number[],
      ];
      const finished = join(folder, 'finished.mkv');
      timed(process.execPath, [
        'scripts/cli.mjs',
        'render',
        '--look',
        look,
        '--in',
        clip,
        '--out',
        finished,
      ]);
      const frames = join(folder, 'frames.raw');
      execFileSync('ffmpeg', [
        '-v',
        'error',
        '-y',
        '-i',
        finished,
        '-f',
        'rawvideo',
        '-pix_fmt',
        samples,
        frames,
      ]);
      const raw = [
        '-f',
        'rawvideo',
        '-pix_fmt',
        samples,
        '-s',
        '1920x1080',
        '-r',
        '25',
        '-i',
        frames,
      ];
      for (let turn = 0; turn < TURNS; turn++) {
        const out = (who: string) => join(folder, `${who}.${format}`);
        ours.push(
          timed(process.execPath, [
            'scripts/cli.mjs',
            'render',
            '--look',
            look,
            '--in',
            clip,
            '--out',
            out('ours'),
          ]),
        );
        theirs.push(
          timed('ffmpeg', [
            '-v',
            'error',
            '-y',
            '-i',
            clip,
            '-vf',
            chain,
            '-pix_fmt',
            samples,
            ...encoder,
            out('theirs'),
          ]),
        );
        alone.push(timed('ffmpeg', ['-v', 'error', '-y', ...raw, ...encoder, out('alone')]));
        if (kiln) ordered.push(await inKiln(kiln.project, kiln.id, format));
      }
      const ratio = (of: readonly number[]): string => (middle(of) / middle(theirs)).toFixed(2);
      console.log(
        `${look} to ${format} (${(statSync(join(folder, `ours.${format}`)).size / 1e6).toFixed(0)} MB): command line ${said(ours)}, ${ratio(ours)} of FFmpeg's ${said(theirs)}`,
      );
      console.log(
        `  encoding alone ${said(alone)}${ordered.length > 0 ? `; in the Kiln ${said(ordered)}, ${ratio(ordered)} of FFmpeg's` : ''}`,
      );
    }
  }
} finally {
  rmSync(folder, { recursive: true, force: true });
}
