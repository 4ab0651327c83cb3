import {
  type CutDocument,
  type CutSound,
  cutting,
  LOUDEST,
  QUIETEST,
  SOUND_CURVES,
  SOUND_RATE,
  type SoundCurve,
} from '../../../core';
import { Choice } from '../../components/Choice';
import { NumberField } from '../../components/NumberField';
import type { SoundView } from '../../data/views';
import { Field } from './PlacePanel';

interface Props {
  readonly cut: CutDocument;
  readonly sound: CutSound;
  readonly of: SoundView | undefined;
  readonly isSong: boolean;
  /** Other sounds of the project, one of which may be a new mix of it. */
  readonly others: readonly SoundView[];
  readonly onReplace: (by: SoundView) => void;
  readonly onEdit: (
    name: string,
    change: (c: CutDocument) => CutDocument,
    gesture?: string,
  ) => void;
  readonly onEnd: () => void;
}
const seconds = (samples: number): number => samples / SOUND_RATE,
  samples = (s: number): number => Math.round(s * SOUND_RATE);

/** Everything about one sound of the cut. */
export function SoundPanel({ sound, of, isSong, others, onReplace, onEdit, onEnd }: Props) {
  const set = (what: string, part: Partial<CutSound>, gesture?: string): void =>
    onEdit(what, (c) => cutting.soundChanged(c, sound.key, part), gesture);
  const whole = of?.samples ?? sound.from + sound.samples;
  const time = (
    label: string,
    value: number,
    [min, max]: readonly [number, number],
    to: (s: number) => Partial<CutSound>,
  ) => (
    <Field label={label}>
      <NumberField
        className="w-[6em] flex-none"
        label={label}
        value={seconds(value)}
        min={min}
        max={max}
        soft={[0, 4.9]}
        unit="s"
        onChange={(v, g) => set(label, to(samples(v)), g)}
        onEnd={onEnd}
      />
    </Field>
  );
  return (
    <div
      className="grid grid-cols-2 gap-x-4 gap-y-0.5"
      role="group"
      aria-label={`Sound ${of?.name ?? ''}`}
    >
      <p className="col-span-2 flex items-baseline gap-2 pb-1">
        <span className="font-semibold truncate mr-auto">
          {of?.name ?? 'a sound that has gone'}
        </span>
        {isSong ? (
          <span className="quiet">the page follows it</span>
        ) : (
          <button
            className="word quiet"
            onClick={() => onEdit('follow a sound', (c) => ({ ...c, song: sound.key }))}
          >
            let the page follow it
          </button>
        )}
      </p>
      {time('begins at', sound.at, [0, 14_400], (at) => ({ at }))}
      {time('from its second', sound.from, [0, seconds(whole - 1)], (from) => ({
        from: Math.min(from, whole - 1),
        samples: Math.min(sound.samples, whole - from),
      }))}
      {time('lasts', sound.samples, [0.01, seconds(whole - sound.from)], (n) => ({
        samples: Math.max(1, Math.min(n, whole - sound.from)),
      }))}
      <Field label="level">
        <NumberField
          className="w-[6em] flex-none"
          label="level"
          value={sound.level}
          min={QUIETEST}
          max={LOUDEST}
          soft={[-30, 12]}
          unit="dB"
          reset={0}
          onChange={(level, g) => set('level', { level }, g)}
          onEnd={onEnd}
        />
      </Field>
      {time('comes over', sound.comes ?? 0, [0, seconds(sound.samples)], (comes) => ({ comes }))}
      {time('goes over', sound.goes ?? 0, [0, seconds(sound.samples)], (goes) => ({ goes }))}
      <Field label="left or right">
        <NumberField
          className="w-[6em] flex-none"
          label="left or right"
          value={sound.pan ?? 0}
          min={-100}
          max={100}
          reset={0}
          onChange={(pan, g) => set('pan', { pan: Math.round(pan) }, g)}
          onEnd={onEnd}
        />
      </Field>
      <Field label="fades">
        <Choice
          className="field !py-0"
          aria-label="fades"
          value={sound.curve ?? SOUND_CURVES[0]}
          onChange={(curve) => set('fades', { curve: curve as SoundCurve })}
        >
          <option value="equal-power">at equal power</option>
          <option value="linear">evenly</option>
        </Choice>
      </Field>
      {others.length > 0 && (
        <Field label="a new mix">
          <Choice
            className="field !py-0 max-w-28"
            aria-label="a new mix"
            title="Takes its place where the music is the same; everything else stays"
            value=""
            face="instead …"
            onChange={(id) => onReplace(others.find((o) => o.id === id)!)}
          >
            {others.map((o) => (
              <option key={o.id} value={o.id}>
                {o.name}
              </option>
            ))}
          </Choice>
        </Field>
      )}
      <Field label="mute">
        <input
          type="checkbox"
          className="tick"
          aria-label="mute"
          checked={sound.mute ?? false}
          onChange={(e) => set('mute', { mute: e.target.checked })}
        />
      </Field>
    </div>
  );
}
