import { edit, type Mover, moverExcess } from '../../../core';
import { type Fitting, FITTING_WORDS, FITTINGS } from '../../../core/time';
import { Choice } from '../../components/Choice';
import { useBench, useClipTime, useStill } from './context';

/** Chooses how it fits clips that end earlier, and tells whether the hero does. */
export function Fits({ mover }: { mover: Mover }) {
  const change = useBench((s) => s.change),
    time = useClipTime(),
    over = useStill((look) => moverExcess(look, mover, time));
  return (
    <label className="grid grid-cols-[74px_1fr] items-center min-h-6 gap-x-1">
      <span className="quiet">If too long</span>
      <Choice
        className="field"
        aria-label="Where the clip ends before it does it"
        value={mover.fits ?? 'cut'}
        onChange={(v) =>
          change(`if ${mover.name} is too long`, (now) =>
            edit.changeMover(now, mover.key, { fits: v as Fitting }),
          )
        }
      >
        {FITTINGS.map((f) => (
          <option key={f} value={f}>
            {FITTING_WORDS[f]}
          </option>
        ))}
      </Choice>
      {over > 0 && (
        <span role="status" className="quiet col-start-2">
          here by {over} frame{over === 1 ? '' : 's'}
        </span>
      )}
    </label>
  );
}
