import { memo } from 'react';
import {
  barAt,
  type Beats,
  type BeatsSaid,
  COUNTED,
  countedBy,
  MOST_OF_A_BAR,
} from '../../../core';
import { Choices } from '../../components/Choices';
import type { SoundView } from '../../data/views';

interface Props {
  readonly sound: SoundView;
  /** As they are said to be. */
  readonly beats: Beats;
  /** The second that is heard. */
  readonly second: number;
  readonly onBeats: (said: BeatsSaid) => void;
}
const BARS = Array.from({ length: MOST_OF_A_BAR - 1 }, (_, i) => String(i + 2));

/** What was found of a sound's beats, and how it is put right. */
export function BeatsRow({ sound, beats, second, onBeats }: Props) {
  const { name, beats: found, said } = sound;
  return (
    <div className="flex items-center gap-4 mt-1" role="group" aria-label={`Beats of ${name}`}>
      <span className="num quiet w-36">{beats.tempo.toFixed(1)} beats a minute</span>
      <Choices
        label="counted"
        options={COUNTED}
        value={said.counted}
        onValue={(counted) => onBeats(countedBy(found, said, counted))}
      />
      <Choices
        label="beats to the bar"
        options={BARS}
        value={String(said.bar)}
        onValue={(bar) => onBeats({ ...said, bar: Number(bar), begins: said.begins % Number(bar) })}
      />
      <button
        className="word"
        title="The beat nearest to where it is heard begins a bar (B on the waveform)"
        onClick={() => onBeats(barAt(found, said, second))}
      >
        a bar begins here
      </button>
    </div>
  );
}

interface LinesProps {
  readonly beats: Beats;
  /** Seconds of the sound. */
  readonly whole: number;
}
/** Beats as lines over a waveform, those that begin a bar from top to bottom. */
export const BeatLines = memo(function BeatLines({ beats: { beats, bars }, whole }: LinesProps) {
  const at = (x: number, from: number): string => `M${x} ${from}V1`;
  const strong = new Set(bars);
  return (
    <svg
      className="absolute inset-0 w-full h-full text-base-content"
      viewBox={`0 -1 ${whole} 2`}
      preserveAspectRatio="none"
      aria-hidden="true"
    >
      <path
        d={beats.map((b) => at(b, strong.has(b) ? -1 : 0.7)).join('')}
        stroke="currentColor"
        strokeOpacity={0.5}
        vectorEffect="non-scaling-stroke"
        fill="none"
      />
    </svg>
  );
});
