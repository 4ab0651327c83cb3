import { useState } from 'react';
import { X } from 'lucide-react';
import {
  type ClipPins,
  edit,
  FADES_OVER,
  LOST_WAYS,
  type LostWay,
  type PinAsk,
  type Point,
  footageAt,
  isAskedWithin,
  PIN_KINDS,
  placeInLookFrame,
  type PlaceKindId,
  placesFor,
  reachedAt,
} from '../../../core';
import type { ClipView, ProjectView } from '../../data/views';
import { Choice } from '../../components/Choice';
import { FootageChooser } from '../../components/FootageChooser';
import { NumberField } from '../../components/NumberField';
import { NameField } from '../../components/NameField';
import {
  aspectOf,
  clickedPlace,
  CLICKS,
  keptAs,
  pinWords,
  seenOf,
  withoutPin,
  withPin,
} from '../../domain/pins';
import { useHandle } from './handle';
import { useAsking, useBench, useStill } from './context';
import { TraceOfPin } from './TraceOfPin';

interface Props {
  readonly onTrouble: (text: string) => void;
  /** The next clip that lacks a pin, if there is one. */
  readonly lacking?: ClipView | undefined;
  readonly onHero?: (clip: string) => void;
  readonly hero: ClipView;
  readonly project: ProjectView;
  readonly frame: number;
  readonly onPins: (name: string, pins: ClipPins) => void;
}

const ASKED: Readonly<Record<PinAsk['kind'], string>> = {
  cue: 'a cue: a frame of the clip',
  point: 'a point',
  line: 'a line',
  oval: 'an oval: a place with its size',
  outline: 'an outline',
  matte: 'a matte: footage, or drawn by hand',
  footage: 'footage: another clip',
};

/** The pins that the look asks for, and the hero's values. */
export function Pins({ hero, project, frame, onPins, onTrouble, lacking, onHero }: Props) {
  const look = useAsking(),
    change = useBench((s) => s.change);
  const pins = look.pins ?? [];
  const add = (kind: PinAsk['kind']) =>
    change(`ask for a ${kind}`, (now) =>
      edit.addPin(now, {
        key: kind,
        label: kind.charAt(0).toUpperCase() + kind.slice(1),
        kind,
        many: false,
      }),
    );
  return (
    <section aria-label="Pins" className="flex-none px-3 py-1.5 border-t line">
      <div className="flex flex-wrap items-center gap-x-0.5">
        <span className="quiet mr-auto whitespace-nowrap">asks for</span>
        <Choice
          className="word quiet !px-[3px]"
          aria-label="Ask each clip for a pin"
          value=""
          face="+ pin"
          onChange={(v) => {
            const kind = PIN_KINDS.find((k) => k === v);
            if (kind) add(kind);
          }}
        >
          {PIN_KINDS.map((kind) => (
            <option key={kind} value={kind}>
              {ASKED[kind]}
            </option>
          ))}
        </Choice>
      </div>
      <ul>
        {pins.map((p) => (
          <PinRow
            key={p.key}
            pin={p}
            hero={hero}
            project={project}
            frame={frame}
            onPins={onPins}
            onTrouble={onTrouble}
          />
        ))}
      </ul>
      {lacking && onHero && (
        <button
          className="word quiet truncate max-w-full"
          title="The next clip that lacks what the look asks for (J)"
          onClick={() => onHero(lacking.id)}
        >
          next: {lacking.name}
        </button>
      )}
    </section>
  );
}

function PinRow({
  pin,
  hero,
  project,
  frame,
  onPins,
  onTrouble,
}: Props & { readonly pin: PinAsk }) {
  const look = useAsking(),
    change = useBench((s) => s.change),
    within = useStill((still) => isAskedWithin(still, pin.key)),
    place = useBench((s) => s.place),
    waiting = useBench((s) => s.placing?.label === pin.label);
  const [drawing, setDrawing] = useState<readonly Point[]>([]);
  const isFootage = pin.kind === 'footage' || pin.kind === 'matte',
    [kind] = placesFor(pin.kind);
  const name = `${pin.label} of ${hero.name}`,
    seen = seenOf(project, look);
  const setCue = () => onPins(name, withPin(hero.pins, pin, { frame: footageAt(hero, frame) }));
  const begin = (kind: PlaceKindId) => {
    let own = hero.pins,
      clicks: Point[] = [];
    place(
      waiting
        ? null
        : {
            label: pin.label,
            many: pin.many,
            asks: pin.many && kind === 'point' ? 'click each place' : CLICKS[kind],
            take(at) {
              clicks.push(placeInLookFrame(at, seen.framed));
              const found = clickedPlace(kind, clicks, aspectOf(seen));
              setDrawing(found ? [] : [...clicks]);
              if (!found) return 'more';
              clicks = [];
              own = withPin(own, pin, keptAs(found, hero, seen));
              onPins(name, own);
              return 'enough';
            },
          },
    );
    setDrawing([]);
  };
  const isSet = hero.pins[pin.key] !== undefined;
  return (
    <li className="py-0.5" data-pin={pin.key}>
      <div className="flex items-center gap-1">
        <NameField
          className="flex-1 min-w-0"
          label={`Name of the pin ${pin.label}`}
          name={pin.label}
          most={40}
          onName={(label) => change('rename pin', (now) => edit.changePin(now, pin.key, { label }))}
        />
        <span className="quiet">{pin.kind}</span>
        {!isFootage && (
          <label
            className="quiet flex items-center gap-1 ml-auto"
            title="A clip may set several: what is bound to it is repeated for each"
          >
            several
            <input
              type="checkbox"
              className="tick"
              aria-label={`Several of ${pin.label}`}
              checked={pin.many}
              onChange={(e) =>
                change('several', (now) => edit.changePin(now, pin.key, { many: e.target.checked }))
              }
            />
          </label>
        )}
        <button
          className={isFootage ? 'quiet ml-auto' : 'quiet'}
          aria-label={`Ask for ${pin.label} no longer`}
          disabled={within}
          title={within ? 'A look within this one asks for it' : undefined}
          onClick={() => change(`no ${pin.label}`, (now) => edit.removePin(now, pin.key))}
        >
          <X size={11} aria-hidden="true" />
        </button>
      </div>
      <div className="flex items-center gap-1">
        {isFootage ? (
          <span className="flex-1 min-w-0">
            <FootageChooser
              pin={pin}
              look={look}
              clip={hero}
              project={project}
              frame={frame}
              onPins={(pins, words) => onPins(words, pins)}
            />
          </span>
        ) : (
          <span className="num quiet truncate mr-auto" title={name}>
            {pinWords(pin, hero.pins, { traces: hero.traces }, (f) => reachedAt(hero, f))}
          </span>
        )}
        {pin.kind === 'cue' && (
          <button className="word" onClick={setCue} title="This frame (C)">
            this frame
          </button>
        )}
        {kind && (
          <button
            className={`word ${waiting ? 'framed' : ''}`}
            aria-pressed={waiting}
            onClick={() => begin(kind)}
            title={
              isFootage
                ? 'By hand instead of footage: an outline around what it covers'
                : `On the hero: ${CLICKS[kind]}`
            }
          >
            {waiting ? 'done' : isFootage ? 'outline it' : 'place'}
          </button>
        )}
        {!isFootage && (
          <button
            className="word quiet"
            disabled={!isSet}
            onClick={() => onPins(`clear ${name}`, withoutPin(hero.pins, pin.key))}
          >
            clear
          </button>
        )}
      </div>
      {waiting && drawing.length > 0 && <Drawn places={drawing} />}
      {kind && hero.pins[pin.key]?.some((v) => 'trace' in v) && <WhereLost pin={pin} />}
      {kind && (
        <TraceOfPin
          pin={pin}
          hero={hero}
          project={project}
          frame={frame}
          onPins={onPins}
          onTrouble={onTrouble}
        />
      )}
    </li>
  );
}

const LOST: Readonly<Record<LostWay, string>> = {
  hold: 'stays',
  fade: 'fades away',
  'go-on': 'goes on',
};
/** What becomes of what hangs on a pin while it is lost, on all clips. */
function WhereLost({ pin }: { readonly pin: PinAsk }) {
  const change = useBench((s) => s.change),
    end = useBench((s) => s.endGesture);
  const put = (part: Partial<PinAsk>, gesture?: string) =>
    change(`where ${pin.label} is lost`, (now) => edit.changePin(now, pin.key, part), gesture);
  return (
    <div className="flex items-center gap-1">
      <span className="quiet">lost, it</span>
      <Choice
        className="field !py-0"
        aria-label={`Where ${pin.label} is lost`}
        value={pin.lost ?? 'hold'}
        onChange={(v) => {
          const lost = LOST_WAYS.find((w) => w === v);
          put({ lost });
        }}
      >
        {LOST_WAYS.map((way) => (
          <option key={way} value={way}>
            {LOST[way]}
          </option>
        ))}
      </Choice>
      {pin.lost === 'fade' && (
        <NumberField
          label={`Frames over which ${pin.label} fades`}
          unit="frames"
          value={pin.over ?? FADES_OVER}
          min={1}
          max={250}
          soft={[1, 25]}
          onChange={(over, gesture) => put({ over: Math.round(over) }, gesture)}
          onEnd={end}
        />
      )}
    </div>
  );
}

/** Clicks of a place that is not finished, on the hero. */
function Drawn({ places }: { readonly places: readonly Point[] }) {
  useHandle(true, {
    label: 'Unfinished',
    parameter: { kind: 'path', id: 'drawn', label: 'Unfinished', default: [] },
    value: places.map(([x, y]) => [x, y, 0, 0, 0, 0] as const),
    put: () => undefined,
    end: () => undefined,
  });
  return null;
}
