import { useContext, useEffect, useState } from 'react';
import {
  asksPlace,
  type ClipPins,
  footageAt,
  inFrame,
  isPlacePin,
  kindOfPlace,
  type PinAsk,
  type PinValue,
  placeOn,
  placesFor,
} from '../../../core';
import { newTrace } from '../../data/traces';
import type { ClipView, ProjectView } from '../../data/views';
import type { Refused } from '../../data/http';
import { framingOf, keptAs, seenOf, withPin, withPinAt } from '../../domain/pins';
import { freshName } from '../../domain/traces';
import { Choice } from '../../components/Choice';
import { TracksContext, useAsking, useBench } from './context';
import { PinHandle } from './PinHandle';
import { TraceRow } from './TraceRow';

interface Props {
  readonly pin: PinAsk;
  readonly hero: ClipView;
  readonly project: ProjectView;
  readonly frame: number;
  readonly onPins: (name: string, pins: ClipPins) => void;
  readonly onTrouble: (text: string) => void;
}

/** Traces that are made for the places of a pin, by the places' numbers among its values. */
type Making = readonly { readonly nth: number; readonly trace: string }[];

/** What a pin of places takes on the hero: fixed places, or traces of its footage. */
export function TraceOfPin(props: Props) {
  const { pin, hero, frame, onPins, onTrouble } = props;
  const values = hero.pins[pin.key] ?? [];
  const seek = useBench((s) => s.seek);
  // A trace is there for the pins once the page knows of it.
  const [making, setMaking] = useState<Making | null>(null);
  const known = making?.every(({ trace }) => hero.traces.some((t) => t.id === trace));
  useEffect(() => {
    if (!making || !known) return;
    setMaking(null);
    const taken = making.reduce(
      (pins, { nth, trace }) => withPinAt(pins, pin.key, nth, { trace }),
      hero.pins,
    );
    onPins(`follow ${pin.label}`, taken);
  }, [known, making, hero.pins, onPins, pin]);
  const fixed = values.flatMap((v, nth) => (isPlacePin(v) ? [{ place: v, nth }] : []));
  const follow = async () => {
    const made: { nth: number; trace: string }[] = [];
    const named: { readonly name: string }[] = [...hero.traces];
    for (const { place, nth } of fixed) {
      const name = freshName(pin.label, named);
      named.push({ name });
      const marks = [{ frame: footageAt(hero, frame), ...place }];
      const kind = kindOfPlace(place);
      made.push({ nth, trace: await newTrace(hero.id, { name, kind, follow: true, marks }) });
    }
    setMaking(made);
  };
  return (
    <div className="flex flex-col gap-1">
      {(values.length > 0 ? values : [undefined]).map((value, nth) => (
        <ValueRow key={nth} {...props} value={value} nth={nth} onFrame={(f) => seek(hero.id, f)} />
      ))}
      {(fixed.length > 0 || (values.length === 0 && asksPlace(pin.kind))) && (
        <button
          className="word self-end"
          disabled={making !== null || fixed.length === 0}
          title={
            fixed.length > 0
              ? 'What lies under it now is followed through the clip'
              : 'Place it on what is to be followed first'
          }
          onClick={() => void follow().catch((e: unknown) => onTrouble((e as Refused).message))}
        >
          {fixed.length > 1 ? 'follow them' : 'follow it'}
        </button>
      )}
    </div>
  );
}

/** One of the values of a pin: what it takes, and the trace that it takes. */
function ValueRow({
  value,
  nth,
  onFrame,
  ...props
}: Props & {
  readonly value: PinValue | undefined;
  readonly nth: number;
  readonly onFrame: (f: number) => void;
}) {
  const { pin, hero, frame, onPins } = props;
  const tracks = useContext(TracksContext);
  const kinds = placesFor(pin.kind),
    suited = hero.traces.filter((t) => kinds.includes(t.kind));
  const taken = value && 'trace' in value ? value.trace : undefined,
    trace = hero.traces.find((t) => t.id === taken);
  const take = (id: string) => {
    if (id !== '') {
      const next: PinValue = { trace: id };
      return onPins(
        `follow ${pin.label}`,
        value ? withPinAt(hero.pins, pin.key, nth, next) : withPin(hero.pins, pin, next),
      );
    }
    // It stays where the trace has it now.
    const track = tracks.get(taken ?? ''),
      held = track && placeOn(track, footageAt(hero, frame), hero.cuts);
    const left = (hero.pins[pin.key] ?? []).flatMap((v, i) => (i !== nth ? [v] : (held ?? [])));
    onPins(`hold ${pin.label}`, { ...hero.pins, [pin.key]: left });
  };
  const several = (hero.pins[pin.key] ?? []).length > 1;
  return (
    <>
      {suited.length > 0 && (
        <Choice
          className="field !py-0 min-w-0"
          aria-label={`What ${pin.label}${several ? ` ${nth + 1}` : ''} of ${hero.name} takes`}
          value={taken ?? ''}
          onChange={take}
        >
          <option value="">a fixed place</option>
          {suited.map((t) => (
            <option key={t.id} value={t.id}>
              {t.name}
            </option>
          ))}
        </Choice>
      )}
      {trace && <TraceRow key={trace.id} {...props} trace={trace} onFrame={onFrame} />}
      {value && <FixedHandle {...props} value={value} nth={nth} />}
    </>
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
  if (!isPlacePin(value) || kindOfPlace(value) === 'point') return null;
  return (
    <PinHandle
      label={nth > 0 ? `${pin.label} ${nth + 1}` : pin.label}
      place={inFrame(value, framingOf(hero, seen))}
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
