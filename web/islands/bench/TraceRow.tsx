import { X } from 'lucide-react';
import { useContext, useEffect, useRef, useState } from 'react';
import {
  footageAt,
  inFrame,
  lengthOf,
  type Mark,
  type Path,
  placeInLookFrame,
  placeOn,
  type PlaceValue,
  type Point,
  type Track,
} from '../../../core';
import { useEditMutation } from '../../data/clip-edits';
import {
  newTrace,
  pinsTaken,
  removeTrace,
  setFollowing,
  type TracePart,
  useChangeTrace,
} from '../../data/traces';
import type { ClipView, ProjectView, TraceView } from '../../data/views';
import type { Refused } from '../../data/http';
import { aspectOf, clickedPlace, CLICKS, framingOf, keptAs, seenOf } from '../../domain/pins';
import {
  isFollowedAround,
  marksAlike,
  marksMoved,
  nextDoubt,
  stretchesOf,
  sureWords,
  withMark,
} from '../../domain/traces';
import { Choice } from '../../components/Choice';
import { TracksContext, useAsking, useBench, usePlayheadNow } from './context';
import { PinHandle } from './PinHandle';
import { TraceLane } from './TraceLane';

interface Props {
  readonly trace: TraceView;
  readonly hero: ClipView;
  readonly project: ProjectView;
  readonly frame: number;
  readonly onFrame: (f: number) => void;
  readonly onTrouble: (text: string) => void;
}

/** Frames over which a trace may be smoothed. */
const SMOOTH = [0, 2, 5, 12];
const smoothings = (now: number): readonly number[] =>
  SMOOTH.includes(now) ? SMOOTH : [...SMOOTH, now];

/** A trace that a pin takes: its frames, its marks, and what is done with them. */
export function TraceRow({ trace, hero, project, frame, onFrame, onTrouble }: Props) {
  const look = useAsking(),
    did = useBench((s) => s.did),
    place = useBench((s) => s.place),
    label = `a mark of ${trace.name}`,
    waiting = useBench((s) => s.placing?.label === label);
  const now = useContext(TracksContext).get(trace.id);
  // While another is made, the track before stands in.
  const [shown, setShown] = useState<Track | undefined>(now);
  useEffect(() => setShown((was) => now ?? was), [now]);
  const playhead = usePlayheadNow(),
    here = footageAt(hero, frame),
    marked = trace.marks.some((m) => m.frame === here),
    isPoint = trace.kind === 'point';
  const save = useChangeTrace(project.id);
  const send = (part: TracePart) =>
    void save(trace.id, part).catch((e: unknown) => onTrouble((e as Refused).message));
  const change = (name: string, part: TracePart) => {
    const was = Object.fromEntries(
      Object.keys(part).map((k) => [k, trace[k as keyof typeof part]]),
    ) as typeof part;
    send(part);
    did(name, { undo: () => send(was), redo: () => send(part) });
  };
  const seen = seenOf(project, look),
    mark = trace.marks.find((m) => m.frame === here),
    lies = mark ?? (shown && placeOn(shown, here, hero.cuts));
  const putMark = (value: PlaceValue, at: number, marks = trace.marks) =>
    change(`mark ${trace.name}`, { marks: withMark(marks, { frame: at, ...value }) });
  const clicks = useRef<Point[]>([]);
  const setMark = () =>
    place(
      waiting
        ? null
        : {
            label,
            many: false,
            asks: CLICKS[trace.kind],
            take: (at: Point) => {
              clicks.current.push(placeInLookFrame(at, seen.framed));
              const found = clickedPlace(trace.kind, clicks.current, aspectOf(seen));
              if (!found) return 'more';
              clicks.current = [];
              // The frame that is clicked, which may be another by now.
              putMark(keptAs(found, hero, seen), footageAt(hero, playhead()));
              return 'enough';
            },
          },
    );
  const edit = useEditMutation(project.id);
  /** With undo it comes back as it was, and into the pins that took it. */
  const takeAway = () => {
    const { id, name, kind, follow, smooth, marks } = trace,
      taken = pinsTaken(project, hero.hash, id),
      refused = (e: unknown) => onTrouble((e as Refused).message);
    const gone = () => void removeTrace(id).catch(refused);
    const back = () =>
      void newTrace(hero.id, { id, name, kind, follow, smooth, marks })
        .then(() => edit(taken))
        .then((e) => e && refused(e), refused);
    gone();
    did(`take ${name} away`, { undo: back, redo: gone });
  };
  const setOn = (on: boolean) =>
    void setFollowing(trace.id, on).catch((e: unknown) => onTrouble((e as Refused).message));
  const running = trace.state === 'waiting' || trace.state === 'running';
  const doubt = shown && nextDoubt(shown, hero, frame);
  const isAround = !running && now && isFollowedAround(now);
  const moved = !running && now ? marksMoved(trace.marks, now) : undefined;
  return (
    <div className="flex flex-col gap-1" role="group" aria-label={`Trace ${trace.name}`}>
      {lies && !isPoint && (
        <PinHandle
          label={trace.name}
          place={inFrame(placeAlone(lies), framingOf(hero, seen))}
          of={`${trace.id} ${here} ${JSON.stringify(lies)}`}
          onPlace={(to, was) =>
            putMark(keptAs(to, hero, seen), here, was && marksAlike(trace.marks, was, to as Path))
          }
        />
      )}
      {shown && (
        <TraceLane
          name={trace.name}
          stretches={stretchesOf(shown, hero)}
          frames={lengthOf(hero)}
          frame={frame}
          onFrame={onFrame}
        />
      )}
      <div className="flex items-center gap-1 flex-wrap">
        <span className="num quiet mr-auto" role="status" aria-label={`State of ${trace.name}`}>
          {running
            ? `following ${Math.floor(trace.progress * 100)} %`
            : trace.state === 'failed'
              ? (trace.error ?? 'could not be followed')
              : trace.state === 'cancelled'
                ? 'stopped'
                : shown
                  ? sureWords(shown, hero)
                  : ''}
        </span>
        <label className="quiet flex items-center gap-1" title="Off: straight from mark to mark">
          followed
          <input
            type="checkbox"
            className="tick"
            aria-label={`${trace.name} is followed between its marks`}
            checked={trace.follow}
            onChange={(e) =>
              change(e.target.checked ? `follow ${trace.name}` : `${trace.name} by hand`, {
                follow: e.target.checked,
              })
            }
          />
        </label>
        {trace.follow && (
          <Choice
            className="field quiet"
            aria-label={`${trace.name} is smoothed`}
            title="What is followed is averaged over frames before and behind; marks stay"
            value={String(trace.smooth)}
            onChange={(v) => change(`smooth ${trace.name}`, { smooth: Number(v) })}
          >
            {smoothings(trace.smooth).map((n) => (
              <option key={n} value={n}>
                {n === 0 ? 'as followed' : `smoothed over ${n}`}
              </option>
            ))}
          </Choice>
        )}
        <button
          className="quiet"
          aria-label={`Take the trace ${trace.name} away`}
          title="From this footage and its pins"
          onClick={takeAway}
        >
          <X size={11} aria-hidden="true" />
        </button>
        {running && (
          <button className="word" onClick={() => setOn(false)}>
            stop
          </button>
        )}
        {(trace.state === 'cancelled' || trace.state === 'failed') && (
          <button className="word framed" onClick={() => setOn(true)}>
            follow it
          </button>
        )}
      </div>
      {isAround && (
        <p className="quiet">Nothing lies right under it; what lies around it is followed.</p>
      )}
      {moved && (
        <button
          className="word framed self-start"
          title="The surface under a mark is bare: the nearest corner or pattern beside it can be followed instead"
          onClick={() => change(`move marks of ${trace.name}`, { marks: moved })}
        >
          follow the nearest place that can be
        </button>
      )}
      <div className="flex items-center gap-x-1 flex-wrap">
        {isPoint || !lies ? (
          <button
            className={`word ${waiting ? 'framed' : ''}`}
            aria-pressed={waiting}
            title="Click on the hero where it is on this frame; it is followed anew between the marks around"
            onClick={setMark}
          >
            {waiting ? 'click it' : marked ? 'move mark' : 'mark here'}
          </button>
        ) : (
          <button
            className="word"
            disabled={marked}
            title="Keeps it as it lies on this frame; dragging its handles marks it too"
            onClick={() => putMark(placeAlone(lies), here)}
          >
            mark here
          </button>
        )}
        <button
          className="word quiet"
          disabled={!marked || trace.marks.length < 2}
          onClick={() =>
            change(`unmark ${trace.name}`, { marks: trace.marks.filter((m) => m.frame !== here) })
          }
        >
          unmark
        </button>
        <button
          className="word quiet"
          disabled={doubt === undefined}
          title="To the next frame at which it is unsure or lost"
          onClick={() => doubt !== undefined && onFrame(doubt)}
        >
          next doubt
        </button>
      </div>
    </div>
  );
}
/** A mark's place without its frame. */
function placeAlone(at: Mark | PlaceValue): PlaceValue {
  const { frame: _, ...place } = at as Mark;
  return place;
}
