/** The time strip: the hero's frames, the playhead, what is at hand, the loop, play and stop. */
import { ChevronDown, ChevronUp, Pause, Play, Volume2, VolumeX } from 'lucide-react';
import type { PointerEvent } from 'react';
import { lengthOf, isRetimed, type LookDocument } from '../../../core';
import { timecode } from '../../../core/time';
import type { ClipView } from '../../data/views';
import { BakePanel } from './BakePanel';
import { useBench, useStill } from './context';
import { COLUMNS, frameUnder, Mark } from './Mark';
import type { BakingState } from './useBaking';
import type { Playing } from './usePlaying';

/** Properties of the time strip. */
export interface TimeStripProps {
  readonly clip: ClipView;
  readonly cues: readonly number[];
  readonly frame: number;
  readonly playing: Playing;
  readonly baking: BakingState;
  readonly onFrame: (f: number) => void;
}

/** A short count of what moves in the look. */
const countWords = (look: LookDocument): string => {
  const n = (look.movers ?? []).length;
  return n === 0 ? 'nothing moves' : n === 1 ? '1 mover' : `${n} movers`;
};

/** The time strip: frames, playhead, loop and playback of the hero. */
export function TimeStrip({ clip, cues, frame, playing, baking, onFrame }: TimeStripProps) {
  const open = useBench((s) => s.timeOpen),
    show = useBench((s) => s.show),
    loop = useBench((s) => s.loops[clip.id]),
    setLoop = useBench((s) => s.loop);
  const words = useStill(countWords);
  const length = lengthOf(clip);
  const last = Math.max(1, length - 1);
  const every = Math.max(1, Math.round(clip.rate[0] / clip.rate[1]));
  const seek = (e: PointerEvent) => onFrame(frameUnder(e, length));
  const share = (f: number) => `${(f / last) * 100}%`;
  return (
    <div className={`${COLUMNS} h-9`}>
      <span className="flex items-center gap-1.5">
        <button className="word" aria-label={playing.on ? 'Stop' : 'Play'} onClick={playing.toggle}>
          {playing.on ? (
            <Pause size={14} aria-hidden="true" />
          ) : (
            <Play size={14} aria-hidden="true" />
          )}
        </button>
        {clip.tracks > 0 && !isRetimed(clip) && (
          <button
            className="word"
            aria-label={playing.silent ? 'Sound is off' : 'Sound is on'}
            aria-pressed={!playing.silent}
            title={playing.silent ? 'play with the sound of the clip' : 'play in silence'}
            onClick={() => playing.setSilent(!playing.silent)}
          >
            {playing.silent ? (
              <VolumeX size={14} aria-hidden="true" />
            ) : (
              <Volume2 size={14} aria-hidden="true" />
            )}
          </button>
        )}
        <span className="num">{timecode(frame, clip.rate)}</span>
      </span>
      <div className="relative h-6" data-track="">
        <div
          role="slider"
          tabIndex={0}
          aria-label="Frame"
          aria-valuemin={0}
          aria-valuemax={length - 1}
          aria-valuenow={frame}
          className="absolute inset-0 touch-none cursor-pointer"
          onPointerDown={(e) => {
            e.currentTarget.setPointerCapture(e.pointerId);
            seek(e);
          }}
          onPointerMove={(e) => {
            if (e.currentTarget.hasPointerCapture(e.pointerId)) seek(e);
          }}
        >
          {loop && (
            <span
              aria-hidden="true"
              className="absolute top-[7px] bottom-[7px] bg-current opacity-15"
              style={{ left: share(loop[0]), width: share(loop[1] - loop[0]) }}
            />
          )}
          <span
            className="absolute left-0 right-0 top-1/2 h-px bg-current opacity-25"
            aria-hidden="true"
          />
          {Array.from({ length: Math.floor((length - 1) / every) + 1 }, (_, i) => (
            <span
              key={i}
              aria-hidden="true"
              className="absolute top-[8px] h-[8px] w-px bg-current opacity-35"
              style={{ left: share(i * every) }}
            />
          ))}
          {runsOf(baking.states).map(({ state, first, end }) => (
            <span
              key={first}
              data-at-hand={state}
              title={
                state === 'baked'
                  ? `baked: ${first} to ${end - 1}`
                  : `in memory: ${first} to ${end - 1}`
              }
              className={`absolute bottom-0 h-[3px] ${state === 'baked' ? 'bg-current opacity-80' : 'bg-current opacity-30'}`}
              style={{
                left: share(Math.max(0, first - 0.5)),
                width: share(Math.min(last, end - 0.5) - Math.max(0, first - 0.5)),
              }}
            />
          ))}
          {runsOf(baking.kiln.map((k) => (k ? 'kiln' : null))).map(({ first, end }) => (
            <span
              key={`kiln ${first}`}
              data-at-hand="kiln"
              title={`baked for the Kiln: ${first} to ${end - 1}`}
              className="absolute bottom-[4px] h-px bg-current opacity-60"
              style={{
                left: share(Math.max(0, first - 0.5)),
                width: share(Math.min(last, end - 0.5) - Math.max(0, first - 0.5)),
              }}
            />
          ))}
          {cues.map((f) => (
            <span
              key={`cue ${f}`}
              role="img"
              aria-label={`cue at ${f}`}
              title={`cue at ${f}`}
              className="absolute bottom-[3px] w-[7px] h-[7px] -translate-x-1/2 rotate-45 border border-primary bg-base-100"
              style={{ left: share(f) }}
            />
          ))}
          <span
            aria-hidden="true"
            className="absolute top-0 bottom-0 w-[1.5px] bg-primary"
            style={{ left: share(frame) }}
          />
        </div>
        {loop &&
          ([0, 1] as const).map((side) => (
            <Mark
              key={side}
              label={side === 0 ? 'loop begins' : 'loop ends'}
              frame={loop[side]}
              frames={length}
              className="top-[3px] w-[5px] h-[18px] border border-current bg-base-100"
              onMove={(to) =>
                setLoop(
                  clip.id,
                  side === 0 ? [Math.min(to, loop[1]), loop[1]] : [loop[0], Math.max(to, loop[0])],
                )
              }
              onEnd={() => {}}
              onRemove={() => setLoop(clip.id, null)}
            />
          ))}
      </div>
      <span className="flex items-center justify-end gap-1 whitespace-nowrap">
        {playing.on ? (
          <span className="num quiet" data-testid="playing" title={playing.said}>
            {playing.short}
          </span>
        ) : (
          <span className="num quiet">
            {frame}/{length - 1}
          </span>
        )}
        <BakePanel clip={clip} loop={loop} baking={baking} />
        <button
          className="word"
          aria-expanded={open}
          aria-label="Lanes of the time shelf"
          title={`${words} (Y)`}
          onClick={() => show({ timeOpen: !open })}
        >
          {open ? (
            <ChevronDown size={14} aria-hidden="true" />
          ) : (
            <ChevronUp size={14} aria-hidden="true" />
          )}
        </button>
      </span>
    </div>
  );
}

/** Runs of consecutive frames in the same state. */
function runsOf<S extends string>(
  states: readonly (S | null)[],
): { readonly state: S; readonly first: number; readonly end: number }[] {
  const runs: { state: S; first: number; end: number }[] = [];
  states.forEach((state, f) => {
    const open = runs.at(-1);
    if (open?.end === f && open.state === state) open.end++;
    else if (state) runs.push({ state, first: f, end: f + 1 });
  });
  return runs;
}
