import { X } from 'lucide-react';
import { useState } from 'react';
import { footageAt, lengthOf, retimeOf } from '../../../core';
import {
  FASTEST,
  LONGEST_HOLD,
  type Retime,
  type RetimePlace,
  SLOWEST,
  startOf,
} from '../../../core/time';
import type { ClipDecisions } from '../../../core';
import type { ClipView } from '../../data/views';
import { usePlayheadNow } from './context';
import { NumberField } from '../../components/NumberField';
import { BetweenChoice, WayChoice } from './retime-choices';
import { TimeMap } from './TimeMap';

const PLAIN: Retime = {
  places: [{ frame: 0, speed: 100, to: 'smooth' }],
  backwards: false,
  between: 'motion',
};

interface Props {
  readonly hero: ClipView;
  readonly onHero: (name: string, to: Partial<ClipDecisions>) => void;
}

/** The hero's retime: tried here with the resulting length, then applied. */
export function Retiming({ hero, onHero }: Props) {
  const [tried, setTried] = useState<{ readonly clip: string; readonly retime: Retime } | null>(
    null,
  );
  const playhead = usePlayheadNow();
  const draft = tried?.clip === hero.id ? tried.retime : null;
  const now = draft ?? hero.retime;
  const set = (retime: Retime) => setTried({ clip: hero.id, retime });
  const places = (all: readonly RetimePlace[]) =>
    set({ ...(now ?? PLAIN), places: [...all].sort((a, b) => a.frame - b.frame) });
  const replace = (i: number, to: Partial<RetimePlace>) =>
    places(now!.places.map((p, k) => (k === i ? { ...p, ...to } : p)));
  const add = () => {
    const frame = footageAt(hero, playhead());
    const all = (now ?? PLAIN).places;
    if (all.some((p) => p.frame === frame)) return;
    const before = all.findLast((p) => p.frame < frame) ?? all[0]!;
    places([...all, { frame, speed: before.speed, to: 'smooth' }]);
  };
  const apply = (retime: Retime | null, words: string) => {
    onHero(words, { retime });
    setTried(null);
  };
  const length = lengthOf({ ...hero, retime: now, lookRetime: null });
  return (
    <div className="flex flex-col gap-1 border-t line pt-1" data-retime={hero.name}>
      <div className="flex items-center gap-1">
        <span className="quiet truncate mr-auto" title="The clip’s own, under every look">
          {hero.name} runs {now ? '' : 'as it was shot'}
        </span>
        {!now && (
          <button className="word" onClick={() => set(PLAIN)}>
            retime
          </button>
        )}
        {now && (
          <button className="word quiet" onClick={add} title="At the playhead">
            + place
          </button>
        )}
        {hero.retime && !draft && (
          <button className="word quiet" onClick={() => apply(null, `${hero.name} as it was shot`)}>
            as it was shot
          </button>
        )}
      </div>
      {now && (
        <>
          <TimeMap
            map={retimeOf({ ...hero, retime: now, lookRetime: null })}
            frames={hero.frames}
            label="The clip’s own time over the new one"
          />
          <ul aria-label={`Places of the retime of ${hero.name}`} className="flex flex-col">
            {now.places.map((p, i) => (
              <li key={i} className="flex items-center gap-0.5 min-h-6" data-place={p.frame}>
                <Figure
                  label={`Frame of place ${i + 1}`}
                  value={p.frame}
                  max={hero.frames - 1}
                  className="w-[3.6em] flex-none"
                  help="A frame of the clip as it was shot"
                  onChange={(v) => {
                    const frame = Math.round(v);
                    if (!now.places.some((o, k) => k !== i && o.frame === frame))
                      replace(i, { frame });
                  }}
                />
                <Figure
                  label={`Speed at place ${i + 1}`}
                  value={p.speed}
                  min={SLOWEST}
                  max={FASTEST}
                  soft={[10, 400]}
                  unit="%"
                  className="w-[5.2em] flex-none"
                  onChange={(speed) => replace(i, { speed })}
                />
                <Figure
                  label={`Stands still at place ${i + 1}`}
                  value={p.hold ?? 0}
                  max={LONGEST_HOLD}
                  soft={[0, 4]}
                  unit="s"
                  className="w-[4.6em] flex-none"
                  help="How long it stands still there"
                  onChange={(hold) => replace(i, { hold })}
                />
                <WayChoice
                  label={`After place ${i + 1}`}
                  value={p.to}
                  onChange={(to) => replace(i, { to })}
                />
                <button
                  className="quiet"
                  aria-label={`Remove place ${i + 1}`}
                  disabled={now.places.length === 1}
                  onClick={() => places(now.places.filter((_, k) => k !== i))}
                >
                  <X size={11} aria-hidden="true" />
                </button>
              </li>
            ))}
          </ul>
          <div className="flex items-center gap-1.5">
            <BetweenChoice
              label="Between frames of the retimed clip"
              value={now.between}
              onChange={(between) => set({ ...now, between })}
            />
            <label className="quiet flex items-center gap-1">
              backwards
              <input
                type="checkbox"
                className="tick"
                aria-label={`${hero.name} runs backwards`}
                checked={now.backwards}
                onChange={(e) => set({ ...now, backwards: e.target.checked })}
              />
            </label>
          </div>
          <div className="flex items-center gap-1">
            <span className="num mr-auto whitespace-nowrap" data-testid="retimed-length">
              {draft && <span className="quiet">{lengthOf({ ...hero, lookRetime: null })} → </span>}
              {length} frames{' '}
              <span className="quiet">{startOf(length, hero.rate).toFixed(1)} s</span>
            </span>
            {draft && (
              <>
                <button className="word quiet" onClick={() => setTried(null)}>
                  discard
                </button>
                <button className="word main" onClick={() => apply(draft, `retime ${hero.name}`)}>
                  apply
                </button>
              </>
            )}
          </div>
          {hero.tracks > 0 && (
            <p className="quiet">
              Its sound goes along: lower where it is slow, silent where it stands still.
            </p>
          )}
        </>
      )}
    </div>
  );
}

interface FigureProps extends Pick<
  Parameters<typeof NumberField>[0],
  'label' | 'value' | 'max' | 'unit' | 'help' | 'soft'
> {
  readonly min?: number;
  readonly className: string;
  readonly onChange: (v: number) => void;
}
const Figure = ({ min = 0, onChange, ...props }: FigureProps) => (
  <NumberField {...props} min={min} onChange={(v) => onChange(v)} onEnd={() => {}} />
);
