import { X } from 'lucide-react';
import {
  type ClipPins,
  edit,
  type PinAsk,
  type Point,
  footageAt,
  isAskedWithin,
  reachedAt,
} from '../../../core';
import { PIN_KINDS } from '../../../core';
import type { ClipView, ProjectView } from '../../data/views';
import { FootageChooser } from '../../components/FootageChooser';
import { NameField } from '../../components/NameField';
import { lineAt, pinAt, pinWords, seenOf, withoutPin, withPin } from '../../domain/pins';
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

/** The pins that the look asks for, and the hero's values. */
export function Pins({ hero, project, frame, onPins, onTrouble, lacking, onHero }: Props) {
  const look = useAsking(),
    change = useBench((s) => s.change);
  const pins = look.pins ?? [];
  const add = (kind: PinAsk['kind']) =>
    change(`ask for a ${kind}`, (now) =>
      edit.addPin(now, {
        key: kind,
        label: { cue: 'Cue', point: 'Point', line: 'Line', matte: 'Matte', footage: 'Footage' }[
          kind
        ],
        kind,
        many: false,
      }),
    );
  return (
    <section aria-label="Pins" className="flex-none px-3 py-1.5 border-t line">
      <div className="flex flex-wrap items-center gap-x-0.5">
        <span className="quiet mr-auto whitespace-nowrap">asks for</span>
        {PIN_KINDS.map((kind) => (
          <button
            key={kind}
            className="word quiet !px-[3px]"
            title={`Ask each clip for a ${kind}`}
            onClick={() => add(kind)}
          >
            + {kind}
          </button>
        ))}
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
  const isFootage = pin.kind === 'footage' || pin.kind === 'matte';
  const name = `${pin.label} of ${hero.name}`,
    seen = seenOf(project, look);
  const set = () => {
    if (pin.kind === 'cue')
      return onPins(name, withPin(hero.pins, pin, { frame: footageAt(hero, frame) }));
    let own = hero.pins,
      first: Point | null = null;
    place(
      waiting
        ? null
        : {
            label: pin.label,
            many: pin.many,
            take: (at) => {
              if (pin.kind === 'line' && !first) {
                first = at;
                return 'more';
              }
              own = withPin(
                own,
                pin,
                first ? lineAt(first, at, hero, seen) : pinAt(at, hero, seen),
              );
              first = null;
              onPins(name, own);
              return 'enough';
            },
          },
    );
  };
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
        {!isFootage && (
          <button
            className={`word ${waiting ? 'framed' : ''}`}
            aria-pressed={waiting}
            onClick={set}
            title={
              pin.kind === 'cue'
                ? 'This frame (C)'
                : pin.kind === 'line'
                  ? 'Click its two ends on the hero'
                  : 'Click on the hero'
            }
          >
            {pin.kind === 'cue' ? 'this frame' : waiting ? 'done' : 'place'}
          </button>
        )}
        {!isFootage && (
          <button
            className="word quiet"
            disabled={!hero.pins[pin.key]}
            onClick={() => onPins(`clear ${name}`, withoutPin(hero.pins, pin.key))}
          >
            clear
          </button>
        )}
      </div>
      {pin.kind === 'point' && (
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
