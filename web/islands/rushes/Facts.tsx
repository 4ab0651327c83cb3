import { useState } from 'react';
import type { CutDecisions, InOut, KeptGaps } from '../../../core';
import type { ClipView } from '../../data/views';
import { Choice } from '../../components/Choice';
import { bytes, ENCODING_CHOICES } from '../../domain/words';
import { Traces } from './Traces';
import { Cuts } from './Cuts';
import { InOutFields } from './InOutFields';
import { Samples } from './Samples';

interface FactsProps {
  readonly clip: ClipView;
  /** Number of chosen clips; encoding, framing and removal apply to all of them. */
  readonly count: number;
  readonly onChange: (c: Partial<Pick<ClipView, 'name' | 'encoding' | 'fit' | 'role'>>) => void;
  readonly onSamples: Parameters<typeof Samples>[0]['onChange'];
  readonly onProgressive: (each: 1 | 2) => void;
  readonly traces: Omit<Parameters<typeof Traces>[0], 'clip'>;
  readonly onGaps: (gaps: KeptGaps) => void;
  readonly onCuts: (said: CutDecisions) => void;
  readonly onInOut: (inOut: InOut | null) => void;
  readonly onSplit: (before: readonly number[]) => void;
  readonly onDouble: () => void;
  readonly onRemove: () => void;
}

/** The size of a clip's frames, and where pixels are not square how wide they are shown. */
function sizeWords({ format: { width, height }, pixelAspect }: ClipView): string {
  const wide = Math.round(width * pixelAspect);
  return `${width}×${height}${wide === width ? '' : `, shown ${wide} wide`}`;
}

/** The length of a clip, and of its footage. */
function lengthWords(clip: ClipView): string {
  const length = clip.inOut ? clip.inOut.out - clip.inOut.in + 1 : clip.frames;
  return `${length === 1 ? 'one frame' : `${length} frames`}${clip.inOut ? ` of ${clip.frames}` : ''}`;
}

/** Facts and decisions about a chosen clip; with several chosen, changes apply to all. */
export function Facts({
  clip,
  count,
  onChange,
  onSamples,
  onProgressive,
  traces,
  onGaps,
  onCuts,
  onInOut,
  onSplit,
  onDouble,
  onRemove,
}: FactsProps) {
  const [name, setName] = useState(clip.name);
  const [sure, setSure] = useState(false);
  const rows: [string, string][] = [
    ['Size', sizeWords(clip)],
    [
      'Rate',
      `${clip.rate[0]}${clip.rate[1] === 1 ? '' : `/${clip.rate[1]}`}${clip.slots ? ' (was uneven)' : ''}`,
    ],
    ['Length', lengthWords(clip)],
    [
      'Samples',
      `${clip.format.depth} bit ${clip.format.layout === 'yuv' ? `4:${clip.format.chroma[0] === 1 ? '4:4' : clip.format.chroma[1] === 2 ? '2:0' : '2:2'}` : clip.format.layout}`,
    ],
    ['Codec', clip.codec],
    ['Sound', clip.tracks === 0 ? 'none' : clip.tracks === 1 ? 'yes' : `${clip.tracks} tracks`],
    ['File', bytes(clip.bytes)],
  ];
  return (
    <aside
      aria-label="Clip"
      className="w-[264px] flex-none border-l line bg-base-200 p-4 flex flex-col gap-4 scrolls"
    >
      <label className="flex flex-col gap-1">
        <span className="quiet">Name</span>
        <input
          className="field"
          value={name}
          onChange={(e) => setName(e.target.value)}
          onBlur={() => {
            if (name.trim() && name !== clip.name) onChange({ name: name.trim() });
          }}
          onKeyDown={(e) => {
            if (e.key === 'Enter') e.currentTarget.blur();
          }}
        />
      </label>
      <dl className="grid grid-cols-[5rem_1fr] gap-y-1">
        {rows.map(([k, v]) => (
          <div key={k} className="contents">
            <dt className="quiet">{k}</dt>
            <dd className="num self-center">{v}</dd>
          </div>
        ))}
      </dl>
      {count === 1 && clip.frames > 1 && <InOutFields clip={clip} onChange={onInOut} />}
      {count === 1 && clip.frames > 1 && <Traces clip={clip} {...traces} />}
      {count === 1 && clip.frames > 1 && <Cuts clip={clip} onSaid={onCuts} onSplit={onSplit} />}
      {clip.warnings.map((w) => (
        <p key={w} role="alert">
          Look at this file: {w}.
        </p>
      ))}
      {count === 1 && clip.gaps && (
        <p role="status">
          Bring it in once more, with{' '}
          <button
            className="word framed"
            onClick={() => onGaps(clip.gaps === 'black' ? 'hold' : 'black')}
          >
            {clip.gaps === 'black' ? 'the picture before held' : 'black'}
          </button>{' '}
          where pictures are missing
        </p>
      )}
      {count > 1 && (
        <p role="status" className="font-medium">
          {count} clips are chosen: what follows is for all of them.
        </p>
      )}
      <label className="flex flex-col gap-1">
        <span className="quiet">Colour encoding</span>
        <Choice
          className="field"
          value={clip.encoding}
          onChange={(v) => onChange({ encoding: v as ClipView['encoding'] })}
        >
          {ENCODING_CHOICES.map((e) => (
            <option key={e.id} value={e.id}>
              {e.label}
              {e.id === clip.guess ? ' (guessed)' : ''}
            </option>
          ))}
        </Choice>
      </label>
      <Samples clip={clip} onChange={onSamples} onProgressive={onProgressive} />
      <fieldset className="flex gap-4">
        <legend className="quiet mb-1">In the project’s frame</legend>
        {(['fit', 'fill'] as const).map((f) => (
          <label key={f} className="flex gap-1.5 items-center">
            <input
              type="radio"
              name="fit"
              className="radio radio-xs"
              checked={clip.fit === f}
              onChange={() => onChange({ fit: f })}
            />
            {f === 'fit' ? 'fit whole' : 'fill'}
          </label>
        ))}
      </fieldset>
      <fieldset className="flex gap-4">
        <legend className="quiet mb-1">Used as</legend>
        {(['clip', 'plate'] as const).map((r) => (
          <label
            key={r}
            className="flex gap-1.5 items-center"
            title={r === 'plate' ? 'Material for looks: not on the Wall, not delivered' : undefined}
          >
            <input
              type="radio"
              name="role"
              className="radio radio-xs"
              checked={clip.role === r}
              onChange={() => onChange({ role: r })}
            />
            a {r}
          </label>
        ))}
      </fieldset>
      <div className="mt-auto flex gap-2">
        {!sure && count === 1 && (
          <button
            className="word quiet"
            onClick={onDouble}
            title="The same stretch of the file as a clip of its own, with a look of its own"
          >
            Once more
          </button>
        )}
        {sure ? (
          <span className="flex gap-2">
            <button className="word framed" onClick={onRemove}>
              Remove {count > 1 ? `${count} clips` : 'from project'}
            </button>
            <button className="word" onClick={() => setSure(false)}>
              keep
            </button>
          </span>
        ) : (
          <button className="word quiet" onClick={() => setSure(true)}>
            Remove …
          </button>
        )}
      </div>
    </aside>
  );
}
