/** Plays the hero in time with its sound, in a loop, at the largest size that keeps up. */
import { useEffect, useMemo, useRef, useState } from 'react';
import { inOutOf, isRetimed, type Lasting, lengthOf, soundMapOf } from '../../../core';
import { startOf } from '../../../core/time';
import type { ClipView } from '../../data/views';
import type { EngineClient } from '../../engine/client/client';
import { retimedBlob } from './retimed-blob';
import { WORKING_LINES } from './useViews';

/** Sizes for playing (lines); the next smaller one is used when a larger one is late. */
const PLAYED_LINES = [WORKING_LINES, 360, 270] as const;
/** Number of frames prepared ahead. */
const AHEAD = 8;
/** Duration (ms) over which the pace is measured. */
const WATCHED = 900;
/** Share of the clip's rate that counts as in time. */
const IN_TIME = 0.94;
/**
 * Number of late measurements in a row before the size is reduced; frames computed for the first
 * time take longer.
 */
const OFTEN = 3;

/** State of playing. */
export interface Playing {
  readonly on: boolean;
  readonly toggle: () => void;
  readonly silent: boolean;
  readonly setSilent: (s: boolean) => void;
  /** Height of the played pictures in lines. */
  readonly lines: number;
  /** The next frames. */
  readonly ahead: readonly number[];
  /** A status text, long and short. */
  readonly said: string;
  readonly short: string;
}

const SILENT = 'wabisabi-silent';

/**
 * The clip's sound, loaded as a whole because seeking into unloaded parts is audible; undefined
 * without sound, or when muted. A retimed clip's is computed as deliveries compute it.
 */
function useSound(clip: ClipView, silent: boolean): HTMLAudioElement | undefined {
  const hasSound = clip.tracks > 0;
  // By what it depends on: a clip is another object whenever anything about it was read anew.
  const { frames, rate, inOut, retime, lookRetime } = clip,
    lasting = JSON.stringify({ frames, rate, inOut, retime, lookRetime } satisfies Lasting);
  const map = useMemo(() => soundMapOf(JSON.parse(lasting) as Lasting), [lasting]);
  const [rateNum, rateDen] = clip.rate;
  const [sound, setSound] = useState<HTMLAudioElement>();
  useEffect(() => {
    if (!hasSound || silent) return;
    const leaving = new AbortController(),
      { signal } = leaving;
    let url: string | undefined;
    void fetch(`/api/footage/${clip.hash}/sound.webm`, { signal })
      .then(async (answer) => {
        if (!answer.ok) return;
        const recorded = await answer.blob();
        const heard = map
          ? await retimedBlob(recorded, { map, rate: [rateNum, rateDen] }, signal)
          : recorded;
        if (signal.aborted) return;
        url = URL.createObjectURL(heard);
        setSound(new Audio(url));
      })
      .catch(() => {}); // Without its sound it is played in silence.
    return () => {
      leaving.abort();
      setSound((old) => void old?.pause());
      if (url) URL.revokeObjectURL(url);
    };
  }, [hasSound, clip.hash, silent, map, rateNum, rateDen]);
  return sound;
}

/** Measures how many pictures come per second, and whether that suffices. */
class Pace {
  private times: number[] = [];
  constructor(readonly since: number) {}
  came(now: number): void {
    this.times.push(now);
    while (this.times[0]! < now - WATCHED) this.times.shift();
  }
  /** Pictures per second; undefined until measured long enough. */
  perSecond(now: number): number | undefined {
    if (now - this.since < WATCHED) return undefined;
    return (this.times.filter((t) => t >= now - WATCHED).length * 1000) / WATCHED;
  }
}

interface Options {
  readonly on: boolean;
  readonly setOn: (on: boolean) => void;
  readonly frame: number;
  readonly setFrame: (f: number) => void;
  readonly loop: readonly [first: number, last: number] | undefined;
  /** The whole loop is baked, so no smaller size is needed. */
  readonly baked: boolean;
}

/** Plays the hero at its own rate. Late frames are skipped; time is kept. */
export function usePlaying(
  engine: EngineClient,
  clip: ClipView,
  { on, setOn, frame, setFrame, loop, baked }: Options,
): Playing {
  const [silent, setSilent] = useState(() => globalThis.localStorage?.getItem(SILENT) === 'yes');
  const [size, setSize] = useState(0);
  const [rate, setRate] = useState<number>();
  const sound = useSound(clip, silent);
  const [first, last] = loop ?? [0, lengthOf(clip) - 1];
  const now = useRef({ frame, setFrame, waiting: false, size, pace: new Pace(0) });
  Object.assign(now.current, { frame, setFrame, size });
  const perSecond = clip.rate[0] / clip.rate[1];
  /** Offset into the file's sound, due to the in point. */
  const begins = isRetimed(clip) ? 0 : startOf(inOutOf(clip).in, clip.rate);

  useEffect(() => {
    let shown = -1;
    return engine.on('hero', (p) => {
      now.current.waiting = false;
      if (p.frame !== shown) now.current.pace.came(performance.now());
      shown = p.frame;
    });
  }, [engine]);

  useEffect(() => {
    if (!on) return;
    const s = now.current;
    // Seconds of the clip at the time `origin`; the sound's clock leads while it plays.
    let origin = 0;
    const seek = (to: number) => {
      const seconds = startOf(to, clip.rate);
      origin = performance.now() - seconds * 1000;
      if (sound) sound.currentTime = begins + seconds;
    };
    const time = (): number => {
      if (sound && !sound.paused && !sound.seeking)
        origin = performance.now() - (sound.currentTime - begins) * 1000;
      return (performance.now() - origin) / 1000;
    };
    seek(s.frame < first || s.frame >= last ? first : s.frame);
    // Plays silently if the browser does not allow sound yet.
    void sound?.play().catch(() => {});
    s.pace = new Pace(performance.now());
    let told = 0,
      late = 0;
    let id = requestAnimationFrame(function tick(at) {
      let next = Math.floor(time() * perSecond + 1e-4);
      if (next > last || next < first) {
        seek(first);
        if (sound?.paused) void sound.play().catch(() => {});
        next = first;
      }
      if (next !== s.frame && !s.waiting) {
        s.waiting = true;
        s.setFrame(next);
      }
      const came = s.pace.perSecond(at);
      if (came !== undefined && at - told > 500) {
        told = at;
        setRate(came);
        late = came < IN_TIME * perSecond ? late + 1 : 0;
        if (late >= OFTEN && s.size < PLAYED_LINES.length - 1 && last > first) {
          setSize(s.size + 1);
          s.pace = new Pace(at);
          late = 0;
        }
      }
      id = requestAnimationFrame(tick);
    });
    return () => {
      cancelAnimationFrame(id);
      sound?.pause();
    };
  }, [on, clip.id, clip.rate, first, last, sound, perSecond, begins]);

  // Baked frames have the full size.
  const lines = PLAYED_LINES[baked ? 0 : size]!;
  const keepsUp = rate === undefined || rate >= IN_TIME * perSecond;
  const count = last - first + 1;
  const ahead = useMemo(
    () =>
      on && keepsUp
        ? Array.from(
            { length: Math.min(AHEAD, count - 1) },
            (_, i) => first + ((Math.max(first, frame) - first + 1 + i) % count),
          )
        : [],
    [on, keepsUp, first, count, frame],
  );
  const asked = Math.round(perSecond);
  const came = rate === undefined ? undefined : Math.min(asked, Math.round(rate));
  return {
    on,
    toggle: () => {
      now.current.waiting = false;
      setRate(undefined);
      setOn(!on);
    },
    silent,
    setSilent: (s) => {
      setSilent(s);
      try {
        localStorage.setItem(SILENT, s ? 'yes' : 'no');
      } catch {
        /* without storage only the choice is lost */
      }
    },
    lines,
    ahead,
    said: `${came ?? '…'} of ${asked} frames a second, at ${lines} lines${baked ? ', baked' : ''}`,
    short: `${came ?? '…'}/${asked} · ${lines}`,
  };
}
