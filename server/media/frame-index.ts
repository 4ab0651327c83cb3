/** The index of a file: presentation time and hash of every frame. */
import { NotFootage } from './footage';
import type { Place } from './place';
import { inPlainWords, run } from './run';

const DAMAGED =
  /premature|truncat|Invalid data|corrupt|rror while decoding|partial file|moov atom not found|invalid NAL|Invalid NAL/;

/** Times in the stream's own time base; by default ffmpeg rounds them to its average rate. */
const OWN_TICKS = ['-enc_time_base', '-1'];

/** Presentation time (seconds from the first) and hash of every frame. */
export async function indexOf(
  place: Place,
  pixelFormat: string,
  onFrame: (count: number) => void,
  signal?: AbortSignal,
): Promise<{ times: number[]; hashes: string[]; last: number; said: string }> {
  let base = 1;
  const times: number[] = [],
    hashes: string[] = [];
  let last = 0;
  const line = (s: string): void => {
    const tb = /^#tb 0: (\d+)\/(\d+)/.exec(s);
    if (tb) base = Number(tb[1]) / Number(tb[2]);
    if (s.startsWith('#') || !s.includes(',')) return;
    const [, , pts, duration, , hash] = s.split(',').map((c) => c.trim());
    times.push(Number(pts) * base);
    last = Number(duration) * base;
    hashes.push(hash!);
    onFrame(hashes.length);
  };
  const { said } = await run(
    'ffmpeg',
    [
      ...place.open,
      '-map',
      '0:v:0',
      '-fps_mode',
      'passthrough',
      ...OWN_TICKS,
      '-pix_fmt',
      pixelFormat,
      '-f',
      'framehash',
      '-hash',
      'md5',
      '-',
    ],
    line,
    signal,
  );
  const damage = said.split('\n').find((l) => DAMAGED.test(l));
  if (damage)
    throw new NotFootage(
      `"${place.name}" is damaged or cut short after frame ${hashes.length} ` +
        `(${inPlainWords(damage)}): copy it again from its source`,
    );
  const first = times[0] ?? 0;
  return { times: times.map((t) => t - first), hashes, last, said };
}
