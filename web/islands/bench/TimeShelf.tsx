/** The time shelf: the time strip, and below it a lane for each span and mover of the look. */
import { useMemo, useState } from 'react';
import { edit, type Mover, stepEvents, type StepEvents } from '../../../core';
import { useBench, useClipTime, useHeroFacts } from './context';
import { COLUMNS, Mark } from './Mark';
import { MoverPanel } from './MoverPanel';
import { curveOf, eventsOf, onHero, type SpanLane, spansOf, targetWords } from './time-lanes';
import { HeightHandle } from './WidthHandle';
import { useStored } from '../../components/useStored';
import { TimeStrip, type TimeStripProps } from './TimeStrip';
import { NO_KEYS } from './store';

/** The time shelf. */
export function TimeShelf(props: TimeStripProps) {
  const open = useBench((s) => s.timeOpen),
    chosen = useBench((s) => s.mover),
    mover = useBench((s) => s.still.movers?.find((m) => m.key === chosen));
  return (
    <section aria-label="Time shelf" className="flex-none border-t line bg-base-100 isolate flex">
      <div className="flex-1 min-w-0">
        <TimeStrip {...props} />
        {open && <Lanes frame={props.frame} onFrame={props.onFrame} />}
      </div>
      {open && mover && <MoverPanel key={mover.key} mover={mover} />}
    </section>
  );
}

/** Heights of the lanes, pixels: two of them at least, and what leaves room for the hero. */
const LOWEST = 58,
  USUAL = 190,
  HIGHEST = 320;
/** What the hero and everything beside the lanes take in a low window, pixels. */
const ALL_ELSE = 548;
const usualIn = (window: number): number => Math.max(LOWEST, Math.min(USUAL, window - ALL_ELSE));
const isHeight = (v: unknown): v is number => typeof v === 'number' && v >= LOWEST && v <= HIGHEST;

function Lanes({ frame, onFrame }: { frame: number; onFrame: (f: number) => void }) {
  const time = useClipTime(),
    hero = useHeroFacts();
  const look = useBench((s) => s.still),
    chosen = useBench((s) => s.mover);
  const spans = spansOf(look, time),
    movers = look.movers ?? [],
    events = useMemo(() => stepEvents(look, onHero(hero, time)), [look, hero, time]);
  const [usual] = useState(() => usualIn(window.innerHeight));
  const [height, setHeight] = useStored('lanes-height', usual, isHeight);
  return (
    <div className="border-t line relative" style={{ height }} data-testid="lanes">
      <HeightHandle
        label="Height of the lanes"
        height={height}
        min={LOWEST}
        max={HIGHEST}
        first={usual}
        onHeight={setHeight}
      />
      <div className="absolute inset-0 scrolls">
        {spans.length === 0 && movers.length === 0 && events.length === 0 && (
          <p className="quiet px-4 py-3">
            Nothing moves yet. Press the small curve beside a parameter to let it move, or give a
            layer or a step a span. <span className="num">Y</span> folds this away.
          </p>
        )}
        {spans.map((s) => (
          <SpanLaneRow key={`${s.of.layer ?? ''}/${s.of.step ?? ''}`} lane={s} />
        ))}
        {events.map((e) => (
          <EventLane key={`${e.layer}/${e.step}`} events={e} onFrame={onFrame} />
        ))}
        {movers.map((m) => (
          <MoverLane key={m.key} mover={m} open={m.key === chosen} onFrame={onFrame} />
        ))}
        <div className={`${COLUMNS} absolute inset-0 pointer-events-none`} aria-hidden="true">
          <span />
          <span className="relative h-full">
            <span
              className="absolute top-0 bottom-0 w-px bg-primary opacity-70"
              style={{ left: `${(frame / Math.max(1, time.frames - 1)) * 100}%` }}
            />
          </span>
        </div>
      </div>
    </div>
  );
}

function SpanLaneRow({ lane }: { lane: SpanLane }) {
  const time = useClipTime();
  const change = useBench((s) => s.change),
    end = useBench((s) => s.endGesture);
  const { of, span, first, last, name } = lane;
  const share = (f: number): number =>
    (Math.max(0, Math.min(time.frames - 1, f)) / Math.max(1, time.frames - 1)) * 100;
  const move = (which: 'from' | 'to') => (to: number, gesture: string) =>
    change(
      `span of ${name}`,
      (now) =>
        edit.setSpan(now, of, { ...span, [which]: edit.instantAt(now, to, time, span[which]) }),
      `span ${name} ${which} ${gesture}`,
    );
  return (
    <div className={`${COLUMNS} h-7`} data-lane={`span ${name}`}>
      <span className="truncate quiet" title={`${name} acts from ${first} to ${last}`}>
        {name}
      </span>
      <span className="relative h-full" data-track="">
        <span
          aria-hidden="true"
          className="absolute top-[10px] h-[8px] bg-current opacity-30 rounded-xs"
          style={{
            left: `${share(first)}%`,
            width: `${Math.max(0.3, share(last) - share(first))}%`,
          }}
        />
        {(['from', 'to'] as const).map((which) => (
          <Mark
            key={which}
            label={which === 'from' ? `${name} begins` : `${name} ends`}
            frame={which === 'from' ? first : last}
            frames={time.frames}
            className="top-[5px] w-[7px] h-[18px] rounded-xs border border-current bg-base-100"
            onMove={move(which)}
            onEnd={end}
          />
        ))}
      </span>
      <span className="num quiet text-right">
        {first}–{last}
      </span>
    </div>
  );
}

/**
 * The chosen keys after a click on one: that key alone, unless several are meant (`more`), or it is
 * one of several about to be dragged.
 */
function withKey(chosen: readonly number[], index: number, more: boolean): readonly number[] {
  if (!more) return chosen.includes(index) ? chosen : [index];
  return chosen.includes(index) ? chosen.filter((k) => k !== index) : [...chosen, index];
}

/** Random events of a step; each mark leads to its frame. */
function EventLane({ events, onFrame }: { events: StepEvents; onFrame: (f: number) => void }) {
  const time = useClipTime();
  const last = Math.max(1, time.frames - 1);
  return (
    <div className={`${COLUMNS} h-7`} data-lane={`events ${events.layer}/${events.step}`}>
      <span className="truncate quiet" title={events.name}>
        {events.name}
      </span>
      <span className="relative h-full">
        {events.frames.map((f) => (
          <button
            key={f}
            aria-label={`${events.name} at ${f}`}
            title={`frame ${f}`}
            className="absolute top-[5px] h-[18px] w-[9px] -translate-x-1/2 flex justify-center"
            style={{ left: `${(f / last) * 100}%` }}
            onClick={() => onFrame(f)}
          >
            <span aria-hidden="true" className="w-px h-full bg-current opacity-70" />
          </button>
        ))}
      </span>
      <span className="num quiet text-right">
        {events.frames.length === 0 ? 'none here' : `${events.frames.length} ×`}
      </span>
    </div>
  );
}

/**
 * The line through the dots; warmer where the value changes faster, invisible where it stands
 * still.
 */
function Speeds({ values, y }: { values: readonly number[]; y: (v: number) => number }) {
  const speeds = values.slice(1).map((v, f) => Math.abs(v - values[f]!));
  const fastest = Math.max(...speeds, 0);
  if (fastest === 0) return null;
  return speeds.map((speed, f) =>
    speed === 0 ? null : (
      <line
        key={f}
        x1={f}
        y1={y(values[f]!)}
        x2={f + 1}
        y2={y(values[f + 1]!)}
        vectorEffect="non-scaling-stroke"
        stroke={`color-mix(in oklch, var(--color-primary) ${Math.round((100 * speed) / fastest)}%, var(--color-info))`}
        strokeWidth={1.5}
      />
    ),
  );
}

/** Height of an open lane's curve, and the margin above and below, in pixels. */
const HIGH = 84,
  AIR = 9;

function MoverLane({
  mover,
  open,
  onFrame,
}: {
  mover: Mover;
  open: boolean;
  onFrame: (f: number) => void;
}) {
  const time = useClipTime(),
    hero = useHeroFacts();
  const look = useBench((s) => s.still),
    keysChosen = useBench((s) => (open ? s.keysChosen : NO_KEYS)),
    change = useBench((s) => s.change),
    show = useBench((s) => s.show),
    end = useBench((s) => s.endGesture);
  const keys = edit.keysOnClip(look, mover, time);
  const curve = useMemo(
    () => (mover.on ? curveOf(look, mover, hero, time) : undefined),
    [look, mover, hero, time],
  );
  const [low, high] = curve ? [Math.min(...curve.values), Math.max(...curve.values)] : [0, 1];
  const tall = open ? HIGH : 28,
    air = open ? AIR : 6;
  const y = (v: number): number => tall - air - ((v - low) / (high - low || 1)) * (tall - 2 * air);
  const last = Math.max(1, time.frames - 1);
  return (
    <div
      className={`${COLUMNS} ${open ? 'bg-base-200' : ''} ${mover.on ? '' : 'opacity-50'}`}
      style={{ height: tall }}
      data-lane={`mover ${mover.key}`}
    >
      <button
        className="min-w-0 text-left self-start pt-1"
        aria-pressed={open}
        title={targetWords(look, mover)}
        onClick={() => show({ mover: open ? null : mover.key, keysChosen: NO_KEYS })}
      >
        <span className={`block truncate ${open ? 'font-medium' : ''}`}>{mover.name}</span>
        {open && (
          <span className="block quiet line-clamp-3 whitespace-normal leading-tight">
            {targetWords(look, mover)}
          </span>
        )}
      </button>
      <span className="relative h-full" data-track="">
        {curve && (
          <svg
            className="absolute inset-0 w-full h-full overflow-visible"
            viewBox={`0 0 ${last} ${tall}`}
            preserveAspectRatio="none"
            aria-label={`${mover.name} over time, a dot a frame, the line warmer where it goes faster`}
            role="img"
          >
            {open && <Speeds values={curve.values} y={y} />}
            {open ? (
              // One dot per frame, so gaps show speed. A zero-length line with round ends is a dot
              // at any stretch.
              curve.values.map((v, f) => (
                <line
                  key={f}
                  x1={f}
                  x2={f}
                  y1={y(v)}
                  y2={y(v)}
                  vectorEffect="non-scaling-stroke"
                  stroke="currentColor"
                  strokeWidth={3}
                  strokeLinecap="round"
                  opacity={0.75}
                />
              ))
            ) : (
              <polyline
                points={curve.values.map((v, f) => `${f},${y(v)}`).join(' ')}
                fill="none"
                stroke="currentColor"
                vectorEffect="non-scaling-stroke"
                opacity={0.5}
              />
            )}
          </svg>
        )}
        {eventsOf(look, mover, onHero(hero, time)).map((f, i) => (
          <button
            key={i}
            aria-label={`${mover.name} at ${f}`}
            title={`frame ${f}`}
            className="absolute top-0 bottom-0 w-[5px] -translate-x-1/2 border-l border-dashed border-current opacity-60"
            style={{ left: `${(f / last) * 100}%` }}
            onClick={() => onFrame(f)}
          />
        ))}
        {keys.map(({ frame, index }) => (
          <Mark
            key={index}
            label={`key of ${mover.name}`}
            frame={frame}
            frames={time.frames}
            chosen={keysChosen.includes(index)}
            className={`w-[11px] h-[11px] rotate-45 border border-primary ${keysChosen.includes(index) ? 'bg-primary' : 'bg-base-100'}`}
            style={{
              top: curve
                ? y(curve.values[Math.max(0, Math.min(last, frame))]!) - 5.5
                : tall / 2 - 5.5,
            }}
            onMove={(to, gesture) =>
              change(
                `move key of ${mover.name}`,
                (now) =>
                  keysChosen.length > 1 && keysChosen.includes(index)
                    ? edit.shiftKeys(now, mover.key, keysChosen, to - frame, time)
                    : edit.moveKey(now, mover.key, index, to, time),
                `key ${mover.key} ${index} ${gesture}`,
              )
            }
            onEnd={end}
            onChoose={(more) =>
              show({ mover: mover.key, keysChosen: withKey(keysChosen, index, more) })
            }
            onRemove={() => {
              show({ keysChosen: NO_KEYS });
              change(`remove key of ${mover.name}`, (now) =>
                edit.removeKeys(now, mover.key, keysChosen.includes(index) ? keysChosen : [index]),
              );
            }}
          />
        ))}
      </span>
      <span className="num quiet text-right self-start pt-1">
        {curve && open && (
          <>
            {Number(high.toFixed(2))}
            <br />
            {Number(low.toFixed(2))}
          </>
        )}
      </span>
    </div>
  );
}
