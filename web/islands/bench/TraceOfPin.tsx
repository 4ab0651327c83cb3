import { X } from 'lucide-react';
import { useContext, useEffect, useRef, useState } from 'react';
import {
  type ClipPins,
  footageAt,
  inFrame,
  isPlacePin,
  kindInFrame,
  kindOfPlace,
  lengthOf,
  type Mark,
  type PinAsk,
  type PinValue,
  placeInLookFrame,
  placeOn,
  placesFor,
  type PlaceValue,
  type Point,
  type TracePin,
  type Track,
} from '../../../core';
import { newTrace, removeTrace, setFollowing, useChangeTrace } from '../../data/traces';
import type { ClipView, ProjectView, TraceView } from '../../data/views';
import type { Refused } from '../../data/http';
import {
  aspectOf,
  clickedPlace,
  CLICKS,
  framingOf,
  keptAs,
  placeOfValue,
  seenOf,
  withPin,
  withPinAt,
} from '../../domain/pins';
import {
  freshName,
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
  readonly pin: PinAsk;
  readonly hero: ClipView;
  readonly project: ProjectView;
  readonly frame: number;
  readonly onPins: (name: string, pins: ClipPins) => void;
  readonly onTrouble: (text: string) => void;
}

/** What a point pin of the hero takes: a fixed place, or a trace of its footage. */
export function TraceOfPin(props: Props) {
  const { pin, hero, frame, onPins, onTrouble } = props;
  const values = hero.pins[pin.key] ?? [];
  const traced = values.find((v): v is TracePin => 'trace' in v);
  const kinds = placesFor(pin.kind);
  const fixed = values.filter(isPlacePin);
  const trace = hero.traces.find((t) => t.id === traced?.trace);
  const now = useContext(TracksContext).get(traced?.trace ?? '');
  const seek = useBench((s) => s.seek);
  const at = (f: number) => seek(hero.id, f);
  // A trace is there for the pins once the page knows of it.
  const [making, setMaking] = useState<string | null>(null);
  const known = making !== null && hero.traces.some((t) => t.id === making);
  useEffect(() => {
    if (!known) return;
    setMaking(null);
    onPins(`follow ${pin.label}`, withPin(hero.pins, pin, { trace: making }));
  }, [known, making, hero.pins, onPins, pin]);
  const follow = () => {
    const [place] = fixed;
    if (!place) return;
    void newTrace(hero.id, {
      name: freshName(pin.label, hero),
      kind: kindOfPlace(place),
      follow: true,
      marks: [{ frame: footageAt(hero, frame), ...place }],
    }).then(setMaking, (e: unknown) => onTrouble((e as Refused).message));
  };
  const suited = hero.traces.filter((t) => kinds.includes(t.kind));
  const choices = suited.length > 0 && (
    <Choice
      className="field !py-0 min-w-0 flex-1"
      aria-label={`What ${pin.label} of ${hero.name} takes`}
      value={traced?.trace ?? ''}
      onChange={(v) => {
        if (v === '' && traced) {
          // It stays where the trace has it now.
          const held = now && placeOn(now, footageAt(hero, frame), hero.cuts);
          const left = values.flatMap((p) => (p !== traced ? [p] : held ? [held] : []));
          onPins(`hold ${pin.label}`, { ...hero.pins, [pin.key]: left });
        } else if (v !== '')
          onPins(`follow ${pin.label}`, {
            ...hero.pins,
            [pin.key]: pin.many
              ? [...values.filter((p) => p !== traced), { trace: v }]
              : [{ trace: v }],
          });
      }}
    >
      <option value="">a fixed place</option>
      {suited.map((t) => (
        <option key={t.id} value={t.id}>
          {t.name}
        </option>
      ))}
    </Choice>
  );
  return (
    <div className="flex flex-col gap-1">
      <div className="flex items-center gap-1">
        {choices}
        {!traced && (
          <button
            className="word ml-auto"
            disabled={making !== null || fixed.length === 0}
            title={
              fixed.length > 0
                ? 'What lies under the place now is followed through the clip'
                : 'Place it on what is to be followed first'
            }
            onClick={follow}
          >
            follow it
          </button>
        )}
      </div>
      {trace && <TraceRow key={trace.id} {...props} trace={trace} onFrame={at} />}
      {values.map((v, i) => (
        <FixedHandle key={i} {...props} value={v} nth={i} />
      ))}
    </div>
  );
}

/** Handles of a fixed place of the pin; a point is moved by setting it anew. */
function FixedHandle({
  pin,
  hero,
  project,
  value,
  nth,
  onPins,
}: Props & { readonly value: PinValue; readonly nth: number }) {
  const seen = seenOf(project, useAsking());
  const place = 'trace' in value ? undefined : placeOfValue(value, hero, seen);
  if (!place || kindInFrame(place) === 'point') return null;
  return (
    <PinHandle
      label={nth > 0 ? `${pin.label} ${nth + 1}` : pin.label}
      place={place}
      of={`${hero.id} ${nth} ${JSON.stringify(value)}`}
      onPlace={(to) =>
        onPins(
          `${pin.label} of ${hero.name}`,
          withPinAt(hero.pins, pin.key, nth, keptAs(to, hero, seen)),
        )
      }
    />
  );
}

function TraceRow({
  trace,
  hero,
  project,
  frame,
  onFrame,
  onTrouble,
}: Props & { readonly trace: TraceView; readonly onFrame: (f: number) => void }) {
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
  const send = (part: Partial<Pick<TraceView, 'marks' | 'follow' | 'name'>>) =>
    void save(trace.id, part).catch((e: unknown) => onTrouble((e as Refused).message));
  const change = (name: string, part: Partial<Pick<TraceView, 'marks' | 'follow' | 'name'>>) => {
    const was = Object.fromEntries(
      Object.keys(part).map((k) => [k, trace[k as keyof typeof part]]),
    ) as typeof part;
    send(part);
    did(name, { undo: () => send(was), redo: () => send(part) });
  };
  const seen = seenOf(project, look),
    mark = trace.marks.find((m) => m.frame === here),
    lies = mark ?? (shown && placeOn(shown, here, hero.cuts));
  const putMark = (value: PlaceValue, at: number) =>
    change(`mark ${trace.name}`, { marks: withMark(trace.marks, { frame: at, ...value }) });
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
  /** Its marks come back with undo, as a trace of its own; a pin takes it when it is told to. */
  const takeAway = () => {
    let { id } = trace;
    const { name, kind, follow, marks } = trace,
      refused = (e: unknown) => onTrouble((e as Refused).message);
    const gone = () => void removeTrace(id).catch(refused);
    const back = () =>
      void newTrace(hero.id, { name, kind, follow, marks }).then((made) => (id = made), refused);
    gone();
    did(`take ${name} away`, { undo: back, redo: gone });
  };
  const setOn = (on: boolean) =>
    void setFollowing(trace.id, on).catch((e: unknown) => onTrouble((e as Refused).message));
  const running = trace.state === 'waiting' || trace.state === 'running';
  const doubt = shown && nextDoubt(shown, hero, frame);
  const moved = !running && now ? marksMoved(trace.marks, now) : undefined;
  return (
    <div className="flex flex-col gap-1" role="group" aria-label={`Trace ${trace.name}`}>
      {lies && !isPoint && (
        <PinHandle
          label={trace.name}
          place={inFrame(placeAlone(lies), framingOf(hero, seen))}
          of={`${trace.id} ${here} ${JSON.stringify(lies)}`}
          onPlace={(to) => putMark(keptAs(to, hero, seen), here)}
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
      {moved && (
        <button
          className="word framed self-start"
          title="The surface under a mark is bare: the nearest corner or pattern beside it can be followed"
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
