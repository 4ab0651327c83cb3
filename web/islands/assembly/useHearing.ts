/**
 * Plays the cut: blocks of its mix are asked from the server and laid end to end on the audio clock,
 * which leads; pictures follow and late ones are left out.
 */
import { useCallback, useEffect, useRef, useState } from 'react';
import { SOUND_RATE } from '../../../core';
import { framesPerSecond, type Rate } from '../../../core/time';

/** Seconds of a block, and how far ahead blocks are asked for. */
const BLOCK = 1,
  AHEAD = 3;
/** Seconds until the first sample sounds, for the first block to come. */
const LEAD = 0.12;

interface Player {
  readonly stop: () => void;
  /** Project frame that is heard now, with its fraction. */
  readonly now: () => number;
}

/** A block of the mix. Silent where the server does not answer. */
async function blockOf(
  project: string,
  first: number,
  signal: AbortSignal,
): Promise<readonly [Float32Array<ArrayBuffer>, Float32Array<ArrayBuffer>] | undefined> {
  const count = BLOCK * SOUND_RATE;
  const answer = await fetch(`/api/projects/${project}/cut/sound?first=${first}&count=${count}`, {
    signal,
  }).catch(() => undefined);
  if (!answer?.ok) return undefined;
  const both = new Float32Array(await answer.arrayBuffer());
  const planes = [new Float32Array(count), new Float32Array(count)] as const;
  for (let i = 0; i < count; i++) {
    planes[0][i] = both[2 * i]!;
    planes[1][i] = both[2 * i + 1]!;
  }
  return planes;
}

function play(project: string, rate: Rate, from: number): Player {
  const perSecond = framesPerSecond(rate);
  const context = new AudioContext({ sampleRate: SOUND_RATE, latencyHint: 'interactive' }),
    leaving = new AbortController();
  const begins = Math.round((from / perSecond) * SOUND_RATE);
  /** Time of the context at which the first sample sounds; it starts with the first block. */
  let origin: number | undefined;
  let asked = 0;
  const lay = async (block: number): Promise<void> => {
    const planes = await blockOf(project, begins + block * BLOCK * SOUND_RATE, leaving.signal);
    if (leaving.signal.aborted) return;
    origin ??= context.currentTime + LEAD;
    if (!planes) return;
    const buffer = context.createBuffer(2, BLOCK * SOUND_RATE, SOUND_RATE);
    planes.forEach((p, c) => buffer.copyToChannel(p, c));
    const source = new AudioBufferSourceNode(context, { buffer });
    source.connect(context.destination);
    const at = origin + block * BLOCK,
      late = context.currentTime - at;
    if (late < BLOCK) source.start(Math.max(at, context.currentTime), Math.max(0, late));
  };
  const more = (): void => {
    const heard = origin === undefined ? 0 : context.currentTime - origin;
    while (asked * BLOCK < heard + AHEAD) {
      const block = asked++;
      // The first alone, so that nothing stands before it in the queue.
      if (block === 0) void lay(0).then(more);
      else void lay(block);
      if (block === 0) return;
    }
  };
  more();
  const timer = setInterval(() => origin !== undefined && more(), 200);
  void context.resume();
  return {
    stop() {
      clearInterval(timer);
      leaving.abort();
      void context.close();
    },
    now() {
      if (origin === undefined) return from;
      // What is heard was handed over a moment ago.
      const heard = context.currentTime - origin - (context.outputLatency || 0);
      return from + Math.max(0, heard) * perSecond;
    },
  };
}

/** What plays, and how. */
export interface Hearing {
  readonly on: boolean;
  readonly toggle: () => void;
  readonly stop: () => void;
}

/**
 * Plays a cut from the playhead on, once or in a loop. `onFrame` is told the frame that is heard;
 * `again` changes when the sound does.
 */
export function useHearing(
  project: string,
  rate: Rate,
  {
    frame,
    end,
    loop,
    onFrame,
    again,
  }: {
    readonly frame: number;
    readonly end: number;
    readonly loop: readonly [from: number, to: number] | null;
    readonly onFrame: (f: number) => void;
    readonly again: unknown;
  },
): Hearing {
  const [on, setOn] = useState(false);
  const now = useRef({ frame, end, loop, onFrame });
  now.current = { frame, end, loop, onFrame };
  const [first, last] = loop ?? [0, end];
  useEffect(() => {
    if (!on) return;
    const inside = (f: number): number => (f < first || f >= last - 1 ? first : f);
    let from = inside(now.current.frame),
      player = play(project, rate, from);
    let shown = from;
    let id = requestAnimationFrame(function tick() {
      const at = Math.floor(player.now() + 1e-6);
      if (at >= last) {
        if (now.current.loop) {
          player.stop();
          from = first;
          player = play(project, rate, from);
          shown = -1;
        } else {
          setOn(false);
          return;
        }
      } else if (at !== shown) {
        shown = at;
        now.current.onFrame(at);
      }
      id = requestAnimationFrame(tick);
    });
    return () => {
      cancelAnimationFrame(id);
      player.stop();
    };
  }, [on, project, rate, first, last, again]);
  return {
    on,
    toggle: useCallback(() => setOn((o) => !o), []),
    stop: useCallback(() => setOn(false), []),
  };
}
