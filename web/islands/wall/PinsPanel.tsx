import { useEffect, useRef, useState } from 'react';
import {
  asksPlace,
  type ClipPins,
  lackingPins,
  type LookDocument,
  type PinAsk,
  type PinValue,
  placeInLookFrame,
  placesFor,
  type Point,
  lengthOf,
  footageAt,
  reachedAt,
} from '../../../core';
import type { ClipView, ProjectView } from '../../data/views';
import type { EngineClient } from '../../engine/client/client';
import { Picture } from '../../engine/client/Picture';
import { restingFrame } from '../../domain/views';
import { Choice } from '../../components/Choice';
import { FootageChooser } from '../../components/FootageChooser';
import { PlaceMarks } from '../../components/PlaceMarks';
import { PlatesDealt } from './PlatesDealt';
import {
  alike,
  aspectOf,
  clickedPlace,
  CLICKS,
  keptAs,
  pinWords,
  placesOf,
  seenOf,
  withoutPin,
  withPin,
} from '../../domain/pins';

/** The pin being set, the clip, and its frame. */
export interface Pinning {
  readonly clip: string;
  readonly pin: string;
  readonly frame: number;
}
interface Props {
  readonly engine: EngineClient;
  readonly project: ProjectView;
  readonly clips: readonly ClipView[];
  readonly documentOf: (c: ClipView) => LookDocument | null;
  readonly pinning: Pinning | null;
  readonly onPinning: (p: Pinning | null) => void;
  /** Sets pins of one clip or several, as one act. */
  readonly onPins: (
    of: readonly { readonly clip: ClipView; readonly pins: ClipPins }[],
    name: string,
  ) => void;
  readonly onClose: () => void;
}

/**
 * Pins that looks ask for: which clips lack them, and setting them clip after clip. Scrub and press
 * C for a cue, click for a point.
 */
export function PinsPanel({
  engine,
  project,
  clips,
  documentOf,
  pinning,
  onPinning,
  onPins,
  onClose,
}: Props) {
  const [order, setOrder] = useState<'clip' | 'pin'>('clip');
  const asked = clips.flatMap((clip) =>
    (documentOf(clip)?.pins ?? []).map((pin) => ({ clip, pin })),
  );
  const lacks = (clip: ClipView, pin: PinAsk) =>
    lackingPins(documentOf(clip)!, clip.pins).some((p) => p.key === pin.key);
  const lacking = asked.filter(({ clip, pin }) => lacks(clip, pin));
  /** Footage pins that several clips are asked for. */
  const footage = byPin(asked).filter(
    ({ pin, clips: of }) => (pin.kind === 'footage' || pin.kind === 'matte') && of.length > 1,
  );
  const rows = order === 'pin' ? byPin(asked).flatMap(({ rows: of }) => of) : asked;
  const now = asked.find(({ clip, pin }) => clip.id === pinning?.clip && pin.key === pinning.pin);
  const begin = (at: { clip: ClipView; pin: PinAsk } | undefined) =>
    onPinning(
      at
        ? {
            clip: at.clip.id,
            pin: at.pin.key,
            frame: pinning?.clip === at.clip.id ? pinning.frame : restingFrame(at.clip),
          }
        : null,
    );
  /** The next clip that lacks something. */
  const next = () => {
    const from = now ? asked.indexOf(now) : -1;
    begin(
      [...asked.slice(from + 1), ...asked.slice(0, from + 1)].find(
        (a) => a !== now && lacks(a.clip, a.pin),
      ),
    );
  };
  return (
    <aside
      aria-label="Pins"
      className="w-[400px] flex-none border-l line bg-base-200 flex flex-col min-h-0"
    >
      <div className="flex items-center px-3 h-9 border-b line flex-none gap-2">
        <h2 className="font-semibold">Pins</h2>
        <span className="num quiet mr-auto">
          {asked.length > 0 && `${lacking.length} of ${asked.length} not set`}
        </span>
        <Choice
          className="field"
          aria-label="Order of the pins"
          value={order}
          onChange={(v) => setOrder(v === 'pin' ? 'pin' : 'clip')}
        >
          <option value="clip">by clip</option>
          <option value="pin">by pin</option>
        </Choice>
        <button className="word" onClick={onClose}>
          close
        </button>
      </div>
      {now && pinning && (
        <Setting
          key={`${pinning.clip} ${pinning.pin}`}
          engine={engine}
          project={project}
          look={documentOf(now.clip)}
          clip={now.clip}
          pin={now.pin}
          frame={pinning.frame}
          onFrame={(frame) => onPinning({ ...pinning, frame })}
          onPins={(pins, name) => {
            onPins([{ clip: now.clip, pins }], name);
            if (!now.pin.many && (now.pin.kind === 'cue' || asksPlace(now.pin.kind))) next();
          }}
          others={asked.filter((a) => a.clip !== now.clip && isSame(a.pin, now.pin)).length}
          onAlike={(value) =>
            onPins(
              alike(
                now.pin,
                asked.flatMap((a) => (isSame(a.pin, now.pin) ? [a.clip] : [])),
                value,
              ),
              `${now.pin.label} for all`,
            )
          }
          onNext={next}
        />
      )}
      {footage.map(({ pin, clips: asking }) => (
        <PlatesDealt key={pin.key} pin={pin} clips={asking} project={project} onDeal={onPins} />
      ))}
      {!now && lacking.length > 0 && (
        <button className="word main m-3 self-start" onClick={() => begin(lacking[0])}>
          set them one after the other
        </button>
      )}
      <ul className="flex-1 scrolls min-h-0 border-t line">
        {rows.map((a) => (
          <li
            key={`${a.clip.id} ${a.pin.key}`}
            className="border-b line"
            data-pin={`${a.clip.name} ${a.pin.key}`}
          >
            <button
              className={`w-full text-left px-3 py-1.5 flex gap-2 ${a === now ? 'bg-base-100' : ''}`}
              aria-pressed={a === now}
              onClick={() => begin(a)}
            >
              <span className="font-medium truncate">{a.clip.name}</span>
              <span className="quiet">{a.pin.label}</span>
              <span className={`num self-center ml-auto ${lacks(a.clip, a.pin) ? '' : 'quiet'}`}>
                {pinWords(a.pin, a.clip.pins, project, (f) => reachedAt(a.clip, f))}
              </span>
            </button>
          </li>
        ))}
        {asked.length === 0 && (
          <li className="p-3 quiet">
            No look that these clips wear asks for anything. A look asks for pins on the Bench,
            below its strata.
          </li>
        )}
      </ul>
    </aside>
  );
}

interface Asked {
  readonly clip: ClipView;
  readonly pin: PinAsk;
}
/** Whether two looks ask for the same: a clip has one value for both. */
const isSame = (a: PinAsk, b: PinAsk): boolean => a.key === b.key && a.kind === b.kind;
/** What is asked, each pin with the clips that it is asked of. */
function byPin(
  asked: readonly Asked[],
): { readonly pin: PinAsk; readonly clips: ClipView[]; readonly rows: Asked[] }[] {
  const groups = new Map<string, { pin: PinAsk; clips: ClipView[]; rows: Asked[] }>();
  for (const row of asked) {
    const name = `${row.pin.kind} ${row.pin.key}`,
      group = groups.get(name) ?? { pin: row.pin, clips: [], rows: [] };
    groups.set(name, group);
    group.clips.push(row.clip);
    group.rows.push(row);
  }
  return [...groups.values()];
}

interface SettingProps {
  readonly engine: EngineClient;
  readonly project: ProjectView;
  readonly look: LookDocument | null;
  readonly clip: ClipView;
  readonly pin: PinAsk;
  readonly frame: number;
  readonly onFrame: (f: number) => void;
  readonly onPins: (pins: ClipPins, name: string) => void;
  /** Number of other clips of which the same is asked, and what gives them this value. */
  readonly others: number;
  readonly onAlike: (value: PinValue) => void;
  readonly onNext: () => void;
}

function Setting({
  engine,
  project,
  look,
  clip,
  pin,
  frame,
  onFrame,
  onPins,
  others,
  onAlike,
  onNext,
}: SettingProps) {
  const slider = useRef<HTMLInputElement>(null);
  const seen = seenOf(project, look);
  useEffect(() => slider.current?.focus(), []);
  /** Clicks of a place that needs more of them, in the look's frame. */
  const [clicks, setClicks] = useState<readonly Point[]>([]);
  const [kind] = asksPlace(pin.kind) ? placesFor(pin.kind) : [];
  const press = (e: React.PointerEvent) => {
    if (!kind) return;
    const r = e.currentTarget.getBoundingClientRect();
    const at = [(e.clientX - r.left) / r.width, (e.clientY - r.top) / r.height] as const;
    const all = [...clicks, placeInLookFrame(at, seen.framed)];
    const found = clickedPlace(kind, all, aspectOf(seen));
    setClicks(found ? [] : all);
    if (found) onPins(withPin(clip.pins, pin, keptAs(found, clip, seen)), pin.label);
  };
  const length = lengthOf(clip);
  const set = clip.pins[pin.key]?.[0];
  const isFootage = pin.kind === 'footage' || pin.kind === 'matte';
  const cue = () => onPins(withPin(clip.pins, pin, { frame: footageAt(clip, frame) }), pin.label);
  return (
    <section
      aria-label={`${pin.label} of ${clip.name}`}
      className="p-3 flex flex-col gap-2"
      onKeyDown={(e) => {
        if (e.ctrlKey || e.metaKey) return;
        if (e.key === 'c' && pin.kind === 'cue') cue();
        else if (e.key === 'n') onNext();
        else return;
        e.preventDefault();
      }}
    >
      <p>
        <span className="font-medium">{clip.name}</span>, {pin.label}:{' '}
        <span className="quiet">
          {pin.kind === 'cue'
            ? 'scrub to it, then press C'
            : isFootage
              ? 'choose a file'
              : pin.many && kind === 'point'
                ? 'click each place'
                : kind && CLICKS[kind]}
        </span>
      </p>
      <div
        className={`relative bg-base-300 ${kind ? 'cursor-crosshair' : ''}`}
        style={{ aspectRatio: `${project.width}/${project.height}` }}
        onPointerDown={press}
      >
        <Picture
          engine={engine}
          view="pinning"
          label={`${clip.name} at frame ${frame}`}
          className="w-full h-full object-contain"
        />
        <PlaceMarks
          places={[...placesOf(pin, clip, seen), ...clicks]}
          framed={seen.framed}
          shape={[project.width, project.height]}
        />
      </div>
      <label className="flex items-center gap-2">
        <input
          ref={slider}
          type="range"
          className="slide"
          aria-label={`Frame of ${clip.name}`}
          min={0}
          max={length - 1}
          value={frame}
          style={{ ['--share' as string]: `${(frame / Math.max(1, length - 1)) * 100}%` }}
          onChange={(e) => onFrame(Number(e.target.value))}
        />
        <span className="num w-8 text-right">{frame}</span>
      </label>
      {isFootage && (
        <FootageChooser
          pin={pin}
          look={look}
          clip={clip}
          project={project}
          frame={frame}
          onPins={(pins) => onPins(pins, pin.label)}
        />
      )}
      {isFootage && others > 0 && set && (
        <button
          className="word self-start"
          title="This file with its start, speed and framing"
          onClick={() => onAlike(set)}
        >
          the same for {others === 1 ? 'the other clip' : `the ${others} other clips`}
        </button>
      )}
      <div className="flex gap-2">
        {pin.kind === 'cue' && (
          <button className="word main" onClick={cue}>
            cue here <span className="num">C</span>
          </button>
        )}
        <button
          className="word"
          disabled={!clip.pins[pin.key]}
          onClick={() => onPins(withoutPin(clip.pins, pin.key), `clear ${pin.label}`)}
        >
          clear
        </button>
        <button className="word ml-auto" onClick={onNext}>
          next that lacks one <span className="num quiet">N</span>
        </button>
      </div>
    </section>
  );
}
