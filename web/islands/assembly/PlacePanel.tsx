import type { ReactNode } from 'react';
import {
  BLEND_IDS,
  BLEND_MODES,
  type BlendId,
  type CutDocument,
  cutting,
  LOUDEST,
  overlapOf,
  type Place,
  QUIETEST,
  spareOf,
  standing,
  transitionNamed,
  TRANSITIONS,
  type CutClip,
} from '../../../core';
import { FASTEST, SLOWEST } from '../../../core/time';
import { Choice } from '../../components/Choice';
import { DialControl } from '../../components/DialControl';
import { NumberField } from '../../components/NumberField';

/** A labelled field. */
export const Field = ({
  label,
  children,
}: {
  readonly label: string;
  readonly children: ReactNode;
}) => (
  <label className="flex items-center gap-1.5 min-w-0">
    <span className="quiet whitespace-nowrap mr-auto">{label}</span>
    {children}
  </label>
);
interface FramesProps {
  readonly label: string;
  readonly value: number;
  readonly min: number;
  readonly max?: number;
  readonly unit?: string;
  readonly onFrames: (v: number, gesture?: string) => void;
  readonly onEnd: () => void;
}
/** A whole number, a step a frame. */
export const Frames = ({
  label,
  value,
  min,
  max = 1_000_000,
  unit = '',
  onFrames,
  onEnd,
}: FramesProps) => (
  <Field label={label}>
    <NumberField
      className="w-[5.2em] flex-none"
      label={label}
      value={value}
      min={min}
      max={max}
      soft={[0, 200]}
      unit={unit}
      onChange={(v, gesture) => onFrames(Math.round(v), gesture)}
      onEnd={onEnd}
    />
  </Field>
);

interface Props {
  readonly cut: CutDocument;
  readonly place: Place;
  readonly clip: CutClip | undefined;
  readonly name: string;
  readonly look: string;
  readonly known: cutting.Known;
  readonly hasSound: boolean;
  readonly bench: string;
  readonly onEdit: (
    name: string,
    change: (c: CutDocument) => CutDocument,
    gesture?: string,
  ) => void;
  readonly onEnd: () => void;
  readonly onSay: (words: string) => void;
}
/** Frames of a transition that is put on a straight cut. */
const USUAL_TRANSITION = 12;

/** Everything about one place of the cut. */
export function PlacePanel(props: Props) {
  const { cut, place, clip, name, look, known, hasSound, onEdit, onEnd } = props;
  const row = cutting.rowOf(cut, place.key)!,
    above = cut.rows.indexOf(row) > 0;
  const set = (what: string, part: Partial<Place>, gesture?: string): void =>
    onEdit(what, (c) => cutting.withPlaces(c, [place.key], (p) => ({ ...p, ...part })), gesture);
  const stands = clip && standing(place, clip, known.rate),
    spare = clip && spareOf(place, clip, known.rate);
  const speed = place.retime?.places[0]?.speed ?? 100;
  const isOwnSpeed = place.retime !== undefined;
  const retimed = (to: number, backwards: boolean): Pick<Place, 'retime'> => ({
    retime: {
      places: [{ frame: 0, speed: to, to: 'at-once' }],
      backwards,
      between: place.retime?.between ?? 'nearest',
    },
  });
  return (
    <div
      className="grid grid-cols-2 gap-x-4 gap-y-0.5"
      role="group"
      aria-label={`Place of ${name}`}
    >
      <p className="col-span-2 flex items-baseline gap-2 pb-1">
        <span className="font-semibold truncate">{name}</span>
        <span className="quiet truncate mr-auto">{look}</span>
        <a className="underline quiet" href={props.bench}>
          on the Bench
        </a>
      </p>
      <Frames
        label="begins at"
        value={place.at}
        min={0}
        onFrames={(at, g) => set('move', { at }, g)}
        onEnd={onEnd}
      />
      <Frames
        label="lasts"
        value={place.frames}
        min={1}
        max={Math.max(place.frames, cutting.longest(place, known))}
        unit="f"
        onFrames={(frames, g) => set('trim an end', { frames }, g)}
        onEnd={onEnd}
      />
      <Frames
        label="from its frame"
        value={place.in}
        min={0}
        max={(clip?.frames ?? 1) - 1}
        onFrames={(from, g) =>
          onEdit('slip', (c) => cutting.slipped(c, place.key, from - place.in, known), g)
        }
        onEnd={onEnd}
      />
      <Field label="speed">
        <NumberField
          className="w-[5.2em] flex-none"
          label="speed"
          value={speed}
          min={SLOWEST}
          max={FASTEST}
          soft={[0, 200]}
          unit="%"
          reset={100}
          onChange={(v, g) =>
            set('speed', retimed(Math.round(v), place.retime?.backwards ?? false), g)
          }
          onEnd={onEnd}
        />
      </Field>
      <Frames
        label="comes over"
        value={place.comes ?? 0}
        min={0}
        max={place.frames}
        unit="f"
        onFrames={(comes, g) => set('fade in', { comes }, g)}
        onEnd={onEnd}
      />
      <Frames
        label="goes over"
        value={place.goes ?? 0}
        min={0}
        max={place.frames}
        unit="f"
        onFrames={(goes, g) => set('fade out', { goes }, g)}
        onEnd={onEnd}
      />
      <Frames
        label="opacity"
        value={place.opacity ?? 100}
        min={0}
        max={100}
        unit="%"
        onFrames={(opacity, g) => set('opacity', { opacity }, g)}
        onEnd={onEnd}
      />
      <Field label="blend">
        <Choice
          className="field !py-0 max-w-28"
          aria-label="blend"
          value={place.blend ?? 'normal'}
          onChange={(b) => set('blend', { blend: b as BlendId })}
        >
          {BLEND_IDS.map((b) => (
            <option key={b} value={b}>
              {BLEND_MODES[b].label}
            </option>
          ))}
        </Choice>
      </Field>
      <Field label="backwards">
        <input
          type="checkbox"
          className="tick"
          aria-label="backwards"
          checked={place.retime?.backwards ?? false}
          onChange={(e) => set('backwards', retimed(speed, e.target.checked))}
        />
      </Field>
      <Field label="its own sound">
        <span className="flex items-center gap-1">
          {place.sound && (
            <NumberField
              className="w-[5em] flex-none"
              label="level of its own sound"
              value={place.sound.level}
              min={QUIETEST}
              max={LOUDEST}
              soft={[-30, 12]}
              unit="dB"
              reset={0}
              onChange={(level, g) => set('level', { sound: { level } }, g)}
              onEnd={onEnd}
            />
          )}
          <input
            type="checkbox"
            className="tick"
            aria-label="its own sound"
            disabled={!hasSound}
            title={hasSound ? undefined : 'This clip has no sound'}
            checked={place.sound !== undefined}
            onChange={(e) =>
              onEdit(e.target.checked ? 'sound on' : 'sound off', (c) =>
                cutting.withPlaces(c, [place.key], ({ sound: _, ...p }) =>
                  e.target.checked ? { ...p, sound: { level: 0 } } : p,
                ),
              )
            }
          />
        </span>
      </Field>
      <p className="col-span-2 num quiet pt-0.5">
        {spare && `${spare.before} spare frames before, ${spare.after} after`}
        {stands && stands.lacks > 0 && ` · ${stands.lacks} frames are missing: the last is held`}
        {place.chance !== undefined && ` · chance ${place.chance}`}
        {isOwnSpeed && ' · its own speed'}
        {above && ' · above'}
      </p>
      <AnswerFields {...props} />
      <TransitionFields {...props} />
    </div>
  );
}

/** What rows above are for a place: its pins may take what stands there at the same instant. */
function AnswerFields({ cut, place, clip, onEdit }: Props) {
  const own = cut.rows.findIndex((r) => r.places.includes(place)),
    above = cut.rows.slice(own + 1).filter((r) => r.places.length > 0),
    row = cut.rows[own]!;
  const look = clip?.look;
  const pins = (look?.pins ?? []).filter((p) => p.kind === 'footage' && !p.side);
  return (
    <>
      {own > 0 && (
        <label className="col-span-2 flex items-center gap-2 pb-1">
          <input
            type="checkbox"
            className="tick"
            aria-label="material"
            checked={row.material ?? false}
            onChange={(e) =>
              onEdit('material', (c) => cutting.withMaterial(c, row.key, e.target.checked))
            }
          />
          <span className="quiet">its row is material: not shown itself, for pins below</span>
        </label>
      )}
      {above.length > 0 &&
        !look?.frame &&
        pins.map((p) => (
          <label key={p.key} className="col-span-2 flex items-center gap-2">
            <span className="quiet mr-auto">{p.label}</span>
            <Choice
              className="field !py-0"
              aria-label={`${p.label} shows`}
              value={place.answers?.[p.key] ?? ''}
              onChange={(key) =>
                onEdit(`${p.label} by a row`, (c) =>
                  cutting.withAnswer(c, place.key, p.key, key || undefined),
                )
              }
            >
              <option value="">what the clip’s pin says</option>
              {above.map((r) => (
                <option key={r.key} value={r.key}>
                  {`row ${cut.rows.indexOf(r) + 1}, at this instant`}
                </option>
              ))}
            </Choice>
          </label>
        ))}
    </>
  );
}

/** The overlap of a place with what stands before it. */
function TransitionFields({ cut, place, known, onEdit, onEnd, onSay }: Props) {
  const row = cutting.rowOf(cut, place.key)!,
    over = overlapOf(row, place),
    { enters } = place;
  const look = enters && transitionNamed(enters.look)?.look;
  const isFirst = row.places[0] === place;
  const to = (id: string, frames: number): void => {
    let words = '';
    onEdit(id === 'none' ? 'no transition' : `transition: ${id}`, (c) => {
      const { cut: made, lacks } = cutting.withTransition(
        c,
        place.key,
        id === 'none' ? null : { look: id },
        frames,
        known,
      );
      const missing = [
        lacks.before > 0 && `${lacks.before} frames after what goes`,
        lacks.after > 0 && `${lacks.after} before what comes`,
      ].filter(Boolean);
      if (missing.length > 0)
        words = `Shorter than asked for: the footage lacks ${missing.join(' and ')}.`;
      return made;
    });
    onSay(words);
  };
  return (
    <div className="col-span-2 border-t line pt-1 mt-1 flex flex-col gap-1">
      <div className="flex items-center gap-2">
        <span className="quiet">comes in by</span>
        <Choice
          className="field !py-0"
          aria-label="transition"
          disabled={isFirst}
          title={isFirst ? 'Nothing stands before it in its row' : undefined}
          value={enters?.look ?? 'none'}
          onChange={(id) => to(id, over ? over.to - over.from : USUAL_TRANSITION)}
        >
          <option value="none">{over ? 'covering what was there' : 'a straight cut'}</option>
          {TRANSITIONS.map((t) => (
            <option key={t.id} value={t.id} title={t.help}>
              {t.look.name}
            </option>
          ))}
        </Choice>
        <span className="num quiet ml-auto">
          {over ? `over ${over.to - over.from} frames` : ''}
        </span>
      </div>
      {look && (
        <div className="grid grid-cols-[5.5rem_1fr] gap-x-2 gap-y-0.5 items-center">
          {look.dials
            .filter((d) => d.key !== 'strength')
            .map((d) => (
              <div key={d.key} className="contents">
                <span className="quiet truncate">{d.label}</span>
                <DialControl
                  dial={d}
                  value={enters.dials?.[d.key] ?? d.value}
                  onTurn={(v, g) =>
                    onEdit(
                      `${d.label} of the transition`,
                      (c) =>
                        cutting.withPlaces(c, [place.key], (p) => ({
                          ...p,
                          enters: { look: enters.look, dials: { ...p.enters?.dials, [d.key]: v } },
                        })),
                      g ?? undefined,
                    )
                  }
                  onEnd={onEnd}
                />
              </div>
            ))}
        </div>
      )}
    </div>
  );
}
