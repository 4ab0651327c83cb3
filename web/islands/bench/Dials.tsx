import { RotateCcw, X } from 'lucide-react';
import { memo, useState } from 'react';
import { type Dial, edit, lostTrims, resolve, withTrims } from '../../../core';
import type { ClipView } from '../../data/views';
import { DialControl } from '../../components/DialControl';
import { Choice } from '../../components/Choice';
import { useBench, useStill } from './context';
import { GoalButton } from './Goals';
import { NO_TRIMS } from './trim-values';

/** Number of dials shown at first. */
const FEW = 8;

/** The look's dials, strength first. They change the look, or the hero's trims. */
export function Dials({ hero }: { hero: ClipView }) {
  const look = useBench((s) => s.look),
    trims = useBench((s) => s.trims[hero.id]) ?? NO_TRIMS,
    own = useBench((s) => s.trimming !== null),
    trimFor = useBench((s) => s.trimFor),
    trim = useBench((s) => s.trim);
  const shown = own ? withTrims(look, trims) : look;
  const lost = lostTrims(look, trims);
  const count = Object.keys(trims).length;
  const standard = (key: string) => look.dials.find((d) => d.key === key)?.value as number;
  const [all, setAll] = useState(false);
  const few = all ? shown.dials : shown.dials.slice(0, FEW);
  const folded = shown.dials.length - few.length;
  return (
    <section
      aria-label="Dials"
      className="flex-none min-h-11 px-4 py-1.5 border-b line flex gap-x-4 items-start bg-base-100"
    >
      <span className="flex flex-none" role="group" aria-label="Dials set">
        <button
          className={`word ${own ? '' : 'framed'}`}
          aria-pressed={!own}
          title="Dials set the look (T)"
          onClick={() => trimFor(null)}
        >
          the look
        </button>
        <button
          className={`word ${own ? 'framed' : ''}`}
          aria-pressed={own}
          title={`Dials set what ${hero.name} has of its own (T)`}
          onClick={() => trimFor(hero.id)}
        >
          this clip{count > 0 && <span className="num text-primary">{count}</span>}
        </button>
      </span>
      <div className="flex-1 min-w-0 grid grid-cols-[repeat(auto-fill,minmax(300px,1fr))] gap-x-4 gap-y-0.5 items-center">
        {few.map((d) => (
          <DialLine
            key={d.key}
            dial={d}
            hero={hero}
            own={own}
            isTrimmed={d.key in trims}
            standard={own ? standard(d.key) : undefined}
          />
        ))}
        {shown.dials.length > FEW && (
          <button
            className="word quiet justify-self-start"
            aria-expanded={all}
            onClick={() => setAll(!all)}
          >
            {all ? 'fewer dials' : `${folded} more dial${folded === 1 ? '' : 's'}`}
          </button>
        )}
      </div>
      {lost.map((key) => (
        <span key={key} role="status" className="flex items-center gap-1 quiet">
          {hero.name}’s trim of “{key}” does nothing: that dial has gone
          <button
            className="word"
            onClick={() =>
              trim(
                `clear ${key}`,
                hero.id,
                Object.fromEntries(Object.entries(trims).filter(([k]) => k !== key)),
              )
            }
          >
            clear it
          </button>
        </span>
      ))}
    </section>
  );
}

interface LineProps {
  readonly dial: Dial;
  readonly hero: ClipView;
  /** Whether it changes the hero's trim. */
  readonly own: boolean;
  readonly isTrimmed: boolean;
  /** The look's value, if the hero may have its own. */
  readonly standard: number | undefined;
}

/** One dial; it does not re-render while another one moves. */
const DialLine = memo(function DialLine({ dial: d, hero, own, isTrimmed, standard }: LineProps) {
  const turn = useBench((s) => s.turn),
    end = useBench((s) => s.endGesture);
  return (
    <div
      className="group grid grid-cols-[72px_minmax(0,1fr)_44px] items-center gap-x-2 min-h-6"
      data-dial={d.key}
      data-trimmed={isTrimmed}
    >
      <span
        className="font-medium"
        title={isTrimmed ? `${hero.name} has a value of its own` : undefined}
      >
        {isTrimmed && (
          <span className="text-primary" aria-label="trimmed">
            ◆{' '}
          </span>
        )}
        {d.label}
      </span>
      <span className="min-w-0">
        <DialControl
          dial={d}
          value={d.value}
          reset={own ? standard : d.key === 'strength' ? 100 : undefined}
          onTurn={(v, gesture) =>
            turn(
              own ? `${d.label} on ${hero.name}` : d.label,
              d.key,
              v,
              gesture && `dial ${own} ${gesture}`,
            )
          }
          onEnd={end}
        />
      </span>
      <span className="flex items-center gap-1">
        {!own && d.kind === 'number' && <GoalButton dial={d} />}
        {own
          ? isTrimmed && <ClearTrim dial={d} hero={hero} />
          : d.key !== 'strength' && <DialMenu dial={d} />}
        {!own && d.key !== 'strength' && <TakeOff dial={d} />}
      </span>
    </div>
  );
});

function ClearTrim({ dial, hero }: { dial: Dial; hero: ClipView }) {
  const turn = useBench((s) => s.turn);
  return (
    <button
      className="quiet hover:text-base-content"
      aria-label={`Clear the trim of ${dial.label}`}
      title="Back to the look’s value"
      onClick={() => turn(`clear ${dial.label} on ${hero.name}`, dial.key)}
    >
      <RotateCcw size={11} aria-hidden="true" />
    </button>
  );
}

/** Menu of a dial: its order, and the ends of its range. */
function DialMenu({ dial: { key, label, kind, value, min, max } }: { dial: Dial }) {
  const change = useBench((s) => s.change),
    place = useStill((look) => look.dials.findIndex((d) => d.key === key)),
    count = useStill((look) => look.dials.length);
  const acts: Record<string, () => void> = {
    earlier: () => change(`dial ${label} earlier`, (now) => edit.moveDial(now, key, -1)),
    later: () => change(`dial ${label} later`, (now) => edit.moveDial(now, key, 1)),
    least: () => change(`dial ${label} begins here`, (now) => edit.endDialHere(now, key, 'least')),
    most: () => change(`dial ${label} ends here`, (now) => edit.endDialHere(now, key, 'most')),
  };
  return (
    <Choice
      className="quiet opacity-0 group-hover:opacity-100 focus:opacity-100 data-open:opacity-100"
      face="⋯"
      aria-label={`Order and ends of ${label}`}
      value=""
      onChange={(id) => acts[id]!()}
    >
      <option value="earlier" disabled={place <= 1}>
        earlier
      </option>
      <option value="later" disabled={place === count - 1}>
        later
      </option>
      {kind === 'number' && (
        <optgroup label="as the picture is now">
          <option
            value="least"
            disabled={value === min || value === max}
            title="It goes no lower than this picture"
          >
            begins here
          </option>
          <option
            value="most"
            disabled={value === max || value === min}
            title="It goes no higher than this picture"
          >
            ends here
          </option>
        </optgroup>
      )}
    </Choice>
  );
}

function TakeOff({ dial }: { dial: Dial }) {
  const change = useBench((s) => s.change);
  return (
    <button
      className="opacity-0 group-hover:opacity-60 focus:opacity-100"
      aria-label={`Take the dial ${dial.label} off`}
      title="Take this dial off; what it drives keeps its value"
      onClick={() =>
        change(`remove dial ${dial.label}`, (now) =>
          edit.removeDial(now, dial.key, (s) => resolve(now, s, {})),
        )
      }
    >
      <X size={11} aria-hidden="true" />
    </button>
  );
}
