import { Maximize, Pause, Play } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import type { BakingView, ProjectView } from '../../data/views';
import type { EngineClient } from '../../engine/client/client';
import { Picture } from '../../engine/client/Picture';
import { timeWords } from './page-of-music';

/** Duration over which the pace is measured, ms. */
const WATCHED = 1000;

/** Pictures a second that come while playing; undefined before it was measured. */
function usePace(engine: EngineClient, on: boolean): number | undefined {
  const [pace, setPace] = useState<number>();
  useEffect(() => {
    setPace(undefined);
    if (!on) return;
    let times: number[] = [],
      shown = -1;
    const off = engine.on('hero', (p) => {
      if (p.frame !== shown) times.push(performance.now());
      shown = p.frame;
    });
    const timer = setInterval(() => {
      times = times.filter((t) => t > performance.now() - WATCHED);
      setPace(times.length);
    }, WATCHED / 2);
    return () => {
      off();
      clearInterval(timer);
    };
  }, [engine, on]);
  return pace;
}

interface Props {
  readonly project: ProjectView;
  readonly engine: EngineClient;
  readonly frame: number;
  readonly frames: number;
  readonly lines: number;
  readonly playing: boolean;
  readonly loop: boolean;
  readonly onPlay: () => void;
  readonly onLoop: () => void;
  readonly onFrame: (f: number) => void;
  readonly baking: BakingView['run'];
  readonly onBake: () => void;
  readonly onStopBaking: () => void;
}

/** The picture of the cut under the playhead, and what plays it. */
export function Viewer(props: Props) {
  const { project, engine, frame, frames, lines, playing, baking } = props;
  const whole = useRef<HTMLDivElement>(null);
  const pace = usePace(engine, playing);
  const [exact, setExact] = useState(false);
  const busy = baking?.state === 'waiting' || baking?.state === 'running';
  const perSecond = Math.round(project.rate[0] / project.rate[1]);
  const says = playing
    ? `${pace ?? '…'} of ${perSecond} pictures a second, ${lines} lines`
    : exact
      ? `exact, ${lines} lines`
      : `from a proxy, ${lines} lines`;
  return (
    <section aria-label="Picture" className="flex-none">
      <div
        ref={whole}
        className="relative bg-black flex items-center justify-center"
        style={{ aspectRatio: `${project.width}/${project.height}` }}
      >
        <Picture
          engine={engine}
          view="hero"
          label={`The cut at frame ${frame}`}
          className="w-full h-full object-contain"
          onPixels={(p) => setExact(p.exact)}
        />
      </div>
      <div className="flex items-center gap-2 px-3 py-1.5">
        <button
          className="word framed"
          aria-label={playing ? 'Pause' : 'Play'}
          title="Space"
          onClick={props.onPlay}
        >
          {playing ? <Pause size={14} aria-hidden="true" /> : <Play size={14} aria-hidden="true" />}
        </button>
        <button
          className={`word ${props.loop ? 'framed' : 'quiet'}`}
          aria-pressed={props.loop}
          title="Plays what is chosen again and again"
          onClick={props.onLoop}
        >
          again
        </button>
        <span className="num" data-testid="time">
          {timeWords(frame, project.rate)}
        </span>
        <span className="num quiet">
          {frame} of {frames}
        </span>
        <button
          className="word quiet ml-auto"
          aria-label="Full screen"
          title="Full screen"
          onClick={() => void whole.current?.requestFullscreen().catch(() => {})}
        >
          <Maximize size={13} aria-hidden="true" />
        </button>
      </div>
      <div className="flex items-center gap-2 px-3 pb-1.5">
        <span className="num quiet mr-auto" role="status">
          {says}
        </span>
        {busy ? (
          <>
            <progress
              className="bar !w-16"
              aria-label="Baked"
              value={baking.made}
              max={baking.frames}
            />
            <span className="num quiet">
              {baking.made}/{baking.frames}
            </span>
            <button className="word" onClick={props.onStopBaking}>
              stop
            </button>
          </>
        ) : (
          <button
            className="word framed"
            disabled={frames === 0}
            title="Computes all frames ahead, those under the playhead first, so that they play"
            onClick={props.onBake}
          >
            bake
          </button>
        )}
      </div>
    </section>
  );
}
