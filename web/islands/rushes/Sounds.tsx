import { Pause, Play, X } from 'lucide-react';
import { useEffect, useMemo, useRef, useState } from 'react';
import { barAt, beatsAs, type BeatsSaid } from '../../../core';
import { NameField } from '../../components/NameField';
import { Waveform } from '../../components/Waveform';
import type { SoundView } from '../../data/views';
import { clock, secondsOf, soundFacts } from '../../domain/sounds';
import { BeatLines, BeatsRow } from './BeatsRow';

interface Props {
  readonly sounds: readonly SoundView[];
  readonly onName: (sound: SoundView, name: string) => void;
  readonly onBeats: (sound: SoundView, said: BeatsSaid) => void;
  readonly onRemove: (sound: SoundView) => void;
  readonly onTrouble: (words: string) => void;
}

/** The sounds of a project: heard one at a time, with their waveforms. */
export function Sounds({ sounds, onName, onBeats, onRemove, onTrouble }: Props) {
  const audio = useRef<HTMLAudioElement>(null);
  const [heard, setHeard] = useState<string | null>(null),
    [on, setOn] = useState(false),
    [second, setSecond] = useState(0);
  // The clock of the sound itself leads.
  useEffect(() => {
    if (!on) return;
    let next = 0;
    const follow = () => {
      setSecond(audio.current?.currentTime ?? 0);
      next = requestAnimationFrame(follow);
    };
    next = requestAnimationFrame(follow);
    return () => cancelAnimationFrame(next);
  }, [on]);
  // What is taken away falls silent.
  const isThere = sounds.some((s) => s.hash === heard);
  useEffect(() => {
    if (!isThere) audio.current?.pause();
  }, [isThere]);

  const go = (sound: SoundView, to: number) => {
    const player = audio.current!;
    if (heard !== sound.hash) {
      player.src = `/api/sound-files/${sound.hash}/samples.flac`;
      setHeard(sound.hash);
    }
    player.currentTime = to;
    setSecond(to);
  };
  const play = (sound: SoundView) => {
    if (heard !== sound.hash || audio.current!.ended) go(sound, 0);
    audio
      .current!.play()
      .catch(
        (e: Error) => e.name !== 'AbortError' && onTrouble(`It cannot be played: ${e.message}`),
      );
  };
  return (
    <section aria-label="Sounds">
      <h2 className="font-semibold mb-2">
        Sounds <span className="quiet font-normal">heard here, not delivered by themselves</span>
      </h2>
      <audio
        ref={audio}
        onPlay={() => setOn(true)}
        onPause={() => setOn(false)}
        onEnded={() => setOn(false)}
      />
      <ul className="flex flex-col gap-2">
        {sounds.map((s) => (
          <Row
            key={s.id}
            sound={s}
            on={on && heard === s.hash}
            second={heard === s.hash ? second : 0}
            onPlay={() => play(s)}
            onPause={() => audio.current!.pause()}
            onGo={(to) => go(s, to)}
            onName={(name) => onName(s, name)}
            onBeats={(said) => onBeats(s, said)}
            onRemove={() => onRemove(s)}
          />
        ))}
      </ul>
    </section>
  );
}

interface RowProps {
  readonly sound: SoundView;
  readonly on: boolean;
  readonly second: number;
  readonly onPlay: () => void;
  readonly onPause: () => void;
  readonly onGo: (second: number) => void;
  readonly onName: (name: string) => void;
  readonly onBeats: (said: BeatsSaid) => void;
  readonly onRemove: () => void;
}
/** Seconds by which a key goes on. */
const STEP = 1;

function Row(row: RowProps) {
  const { sound, on, second, onPlay, onPause, onGo, onName, onBeats, onRemove } = row;
  const whole = secondsOf(sound),
    share = Math.min(1, second / whole),
    beats = useMemo(() => beatsAs(sound.beats, sound.said), [sound.beats, sound.said]);
  const hasBeats = sound.beats.length > 0;
  const keys: Readonly<Record<string, number>> = {
    ArrowRight: second + STEP,
    ArrowLeft: second - STEP,
    Home: 0,
    End: whole,
  };
  return (
    <li className="bg-base-200 border line rounded-sm px-2 py-1.5">
      <div className="flex items-center gap-3">
        <button
          className="word framed"
          aria-label={`${on ? 'Pause' : 'Play'} ${sound.name}`}
          onClick={on ? onPause : onPlay}
        >
          {on ? <Pause size={14} aria-hidden="true" /> : <Play size={14} aria-hidden="true" />}
        </button>
        <NameField
          className="w-40 flex-none"
          label={`Name of the sound ${sound.name}`}
          name={sound.name}
          most={60}
          onName={onName}
        />
        <div
          className="relative flex-1 min-w-0 h-10 text-primary cursor-pointer"
          role="slider"
          tabIndex={0}
          aria-label={`Where ${sound.name} is heard`}
          aria-valuemin={0}
          aria-valuemax={Math.round(whole)}
          aria-valuenow={Math.round(second)}
          aria-valuetext={`${clock(second)} of ${clock(whole)}`}
          onClick={(e) => {
            const { left, width } = e.currentTarget.getBoundingClientRect();
            onGo(Math.max(0, Math.min(1, (e.clientX - left) / width)) * whole);
          }}
          onKeyDown={(e) => {
            if (e.key === ' ') (on ? onPause : onPlay)();
            else if (e.key === 'b' && hasBeats) onBeats(barAt(sound.beats, sound.said, second));
            else if (e.key in keys) onGo(Math.max(0, Math.min(whole, keys[e.key]!)));
            else return;
            e.preventDefault();
          }}
        >
          <Waveform hash={sound.hash} samples={sound.samples} className="w-full h-full" />
          {hasBeats && <BeatLines beats={beats} whole={whole} />}
          <span
            className="absolute inset-y-0 w-px bg-base-content"
            style={{ left: `${100 * share}%` }}
          />
        </div>
        <span className="num w-14 text-right">{clock(second)}</span>
        <button
          className="quiet"
          aria-label={`Take the sound ${sound.name} away`}
          title="From this project; its file stays"
          onClick={onRemove}
        >
          <X size={13} aria-hidden="true" />
        </button>
      </div>
      <p className="num quiet mt-1">{soundFacts(sound)}</p>
      {hasBeats && <BeatsRow sound={sound} beats={beats} second={second} onBeats={onBeats} />}
    </li>
  );
}
