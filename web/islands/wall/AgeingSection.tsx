import { EASES, type EaseId } from '../../../core';
import type { ClipView, VersionView } from '../../data/views';
import { NumberField } from '../../components/NumberField';
import { Choice } from '../../components/Choice';
import type { Drifting } from './ageing';

interface Props {
  readonly drifting: Drifting;
  readonly version: VersionView;
  readonly clips: readonly ClipView[];
  readonly onTake: () => void;
}

const NOTHING = (): void => {};

/** A dial that changes from the first clip to the last: shown on the tiles, applied as trims. */
export function AgeingSection({
  drifting: { ageing: now, set, trims },
  version,
  clips,
  onTake,
}: Props) {
  const numbers = version.document.dials.filter((d) => d.kind === 'number' && d.key !== 'strength');
  if (numbers.length === 0) return null;
  const ageing = now?.lookId === version.lookId ? now : null;
  const begin = () => {
    const [first] = numbers;
    set({
      lookId: version.lookId,
      dial: first!.key,
      from: first!.min!,
      to: first!.value as number,
      ease: 'even',
    });
  };
  if (!ageing)
    return (
      <section aria-label="Ageing" className="px-3 py-2 border-b line">
        <button
          className="word framed"
          disabled={clips.length < 2}
          onClick={begin}
          title="A dial that drifts from the first clip of the project to the last"
        >
          age along the video …
        </button>
      </section>
    );
  const dial = numbers.find((d) => d.key === ageing.dial) ?? numbers[0]!;
  const end = (which: 'from' | 'to', label: string) => (
    <label className="flex items-center gap-1">
      <span className="quiet">{label}</span>
      <NumberField
        label={`${dial.label} at the ${which === 'from' ? 'first' : 'last'} clip`}
        className="w-[5.4em]"
        value={ageing[which]}
        min={dial.min!}
        max={dial.max!}
        unit={dial.unit}
        onChange={(v) => set({ ...ageing, [which]: v })}
        onEnd={NOTHING}
      />
    </label>
  );
  return (
    <section aria-label="Ageing" className="px-3 py-2 border-b line flex flex-col gap-1.5">
      <h3 className="font-medium">
        Ageing <span className="quiet font-normal">over {trims.size} clips in their order</span>
      </h3>
      <div className="flex gap-1">
        <Choice
          className="field flex-1 min-w-0"
          aria-label="Dial that drifts"
          value={dial.key}
          onChange={(key) => {
            const next = numbers.find((d) => d.key === key)!;
            set({ ...ageing, dial: key, from: next.min!, to: next.value as number });
          }}
        >
          {numbers.map((d) => (
            <option key={d.key} value={d.key}>
              {d.label}
            </option>
          ))}
        </Choice>
        <Choice
          className="field flex-1 min-w-0"
          aria-label="How it drifts"
          value={ageing.ease}
          onChange={(v) => set({ ...ageing, ease: v as EaseId })}
        >
          {Object.entries(EASES).map(([id, words]) => (
            <option key={id} value={id}>
              {words}
            </option>
          ))}
        </Choice>
      </div>
      <div className="flex gap-3">
        {end('from', 'first')}
        {end('to', 'last')}
      </div>
      <div className="flex gap-2">
        <button className="word main" onClick={onTake}>
          trim {trims.size} clips
        </button>
        <button className="word" onClick={() => set(null)}>
          leave it
        </button>
      </div>
    </section>
  );
}
