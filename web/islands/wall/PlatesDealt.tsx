import { useState } from 'react';
import type { PinAsk } from '../../../core';
import type { ClipView, ProjectView } from '../../data/views';
import { dealtOut } from '../../domain/pins';

interface Props {
  readonly pin: PinAsk;
  /** The clips whose looks ask for it. */
  readonly clips: readonly ClipView[];
  readonly project: ProjectView;
  readonly onDeal: (dealt: ReturnType<typeof dealtOut>, name: string) => void;
}

/** One plate for all clips that ask for a pin, or several dealt out in turn, in one act. */
export function PlatesDealt({ pin, clips, project, onDeal }: Props) {
  const [chosen, setChosen] = useState<readonly string[]>([]);
  const offered = [...project.plates, ...project.clips.filter((c) => !clips.includes(c))];
  const several = new Map(offered.map((c) => [c.hash, c]));
  const dealt = dealtOut(pin, clips, chosen);
  const toggle = (hash: string) =>
    setChosen(chosen.includes(hash) ? chosen.filter((h) => h !== hash) : [...chosen, hash]);
  return (
    <section aria-label={`${pin.label} for all`} className="p-3 border-b line flex flex-col gap-2">
      <p className="quiet">
        {pin.label} of {clips.length} clips: one for all, or several in turn
      </p>
      <div className="flex flex-wrap gap-1">
        {[...several.values()].map((c) => {
          const turn = chosen.indexOf(c.hash);
          return (
            <button
              key={c.hash}
              className={`word framed ${turn >= 0 ? 'text-primary' : ''}`}
              aria-pressed={turn >= 0}
              onClick={() => toggle(c.hash)}
            >
              {chosen.length > 1 && turn >= 0 && <span className="num">{turn + 1} </span>}
              {c.name}
            </button>
          );
        })}
        {several.size === 0 && (
          <span className="quiet">Nothing is there to choose: bring plates in on Rushes.</span>
        )}
      </div>
      <button
        className="word main self-start"
        disabled={dealt.length === 0}
        onClick={() => {
          onDeal(dealt, chosen.length > 1 ? `deal out ${pin.label}` : `${pin.label} for all`);
          setChosen([]);
        }}
      >
        {chosen.length > 1 ? 'deal out to' : 'set for'} {dealt.length || clips.length} clips
      </button>
    </section>
  );
}
