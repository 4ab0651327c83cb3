import { useEffect, useState } from 'react';
import { type InOut, inOutOf } from '../../../core';
import type { ClipView } from '../../data/views';
import { Still } from './Still';

interface Props {
  readonly clip: ClipView;
  readonly onChange: (inOut: InOut | null) => void;
}

/** In and out of a clip, each with its picture. */
export function InOutFields({ clip, onChange }: Props) {
  const ends = inOutOf(clip);
  const set = (to: InOut): void => onChange(to.in === 0 && to.out === clip.frames - 1 ? null : to);
  return (
    <section aria-label="In and out">
      <div className="flex gap-2">
        <End
          label="In"
          clip={clip}
          frame={ends.in}
          least={0}
          most={ends.out}
          onFrame={(v) => set({ ...ends, in: v })}
        />
        <End
          label="Out"
          clip={clip}
          frame={ends.out}
          least={ends.in}
          most={clip.frames - 1}
          onFrame={(v) => set({ ...ends, out: v })}
        />
      </div>
      {clip.inOut && (
        <button className="word quiet mt-1" onClick={() => onChange(null)}>
          all of the file
        </button>
      )}
    </section>
  );
}

interface EndProps {
  readonly label: string;
  readonly clip: ClipView;
  readonly frame: number;
  readonly least: number;
  readonly most: number;
  readonly onFrame: (frame: number) => void;
}
/** Sent on blur or Enter; Escape restores the value. */
function End({ label, clip, frame, least, most, onFrame }: EndProps) {
  const [typed, setTyped] = useState(String(frame));
  useEffect(() => setTyped(String(frame)), [frame]);
  const take = () => {
    const to = Math.round(Number(typed));
    if (typed.trim() === '' || !Number.isFinite(to)) return setTyped(String(frame));
    const within = Math.max(least, Math.min(most, to));
    setTyped(String(within));
    if (within !== frame) onFrame(within);
  };
  return (
    <label className="flex-1 min-w-0 flex flex-col gap-1">
      <span className="quiet">{label}, frame</span>
      <input
        className="field num w-full"
        type="number"
        min={least}
        max={most}
        value={typed}
        onChange={(e) => setTyped(e.target.value)}
        onBlur={take}
        onKeyDown={(e) => {
          if (e.key === 'Enter') take();
          if (e.key === 'Escape') setTyped(String(frame));
        }}
      />
      <Still clip={clip} frame={frame} />
      {frame === clip.frames - 1 && clip.missing > 0 && (
        <span className="quiet">the last that can be read: {clip.missing} more are missing</span>
      )}
    </label>
  );
}
