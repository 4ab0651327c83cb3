import { type Dial, type DialValue, goalWords, lostTrims, type LookDocument } from '../../../core';
import type { ClipView, VersionView } from '../../data/views';
import { DialControl } from '../../components/DialControl';
import { type GoalProposals, goalDials } from './goal-proposals';
import type { Drifting } from './ageing';
import { AgeingSection } from './AgeingSection';
import type { TriedDials } from './tried-dials';
import { Choice } from '../../components/Choice';

interface Props {
  readonly clips: readonly ClipView[];
  readonly chosen: readonly ClipView[];
  /** The newest version of each look that clips wear. */
  readonly looks: readonly VersionView[];
  readonly trying: TriedDials;
  readonly goals: GoalProposals;
  readonly drifting: Drifting;
  readonly onAged: () => void;
  readonly onAimed: () => void;
  readonly onTry: (t: TriedDials) => void;
  readonly onSave: (v: VersionView, look: LookDocument) => void;
  readonly onTrim: () => void;
  readonly onCopy: (from: ClipView) => void;
  readonly onClear: (clip: ClipView) => void;
  readonly onClose: () => void;
}

const said = (d: Dial | undefined, v: DialValue): string => {
  if (typeof v === 'number') return `${Math.round(v * 100) / 100}${d?.unit ? ` ${d.unit}` : ''}`;
  return typeof v === 'boolean' ? (v ? 'on' : 'off') : v.map((x) => x.toFixed(2)).join(' ');
};
const NOTHING = (): void => {};

/**
 * A look's dials beside its tiles: tried on all clips that follow it, or as trims of the chosen
 * clips; with the list of existing trims.
 */
export function DialsPanel({
  clips,
  chosen,
  looks,
  trying,
  goals,
  drifting,
  onAged,
  onAimed,
  onTry,
  onSave,
  onTrim,
  onCopy,
  onClear,
  onClose,
}: Props) {
  const version = looks.find((v) => v.lookId === trying.lookId);
  const wearing = clips.filter((c) => c.look?.lookId === trying.lookId);
  const targets =
    trying.whose === 'look'
      ? wearing.filter((c) => c.follows)
      : chosen.filter((c) => c.look?.lookId === trying.lookId);
  const changed = Object.keys(trying.values).length;
  const trims = wearing.filter((c) => c.trims[trying.lookId]);
  // Shows the chosen clips' trim if they all have the same.
  const own = (d: Dial): DialValue => {
    const tried = trying.values[d.key];
    if (tried !== undefined) return tried;
    const theirs =
      trying.whose === 'clips' ? targets.map((c) => c.trims[trying.lookId]?.[d.key]) : [];
    return theirs.length > 0 && theirs[0] !== undefined && theirs.every((v) => v === theirs[0])
      ? theirs[0]
      : d.value;
  };
  return (
    <aside
      aria-label="Dials"
      className="w-[340px] flex-none border-l line bg-base-200 flex flex-col min-h-0"
    >
      <div className="flex items-center px-3 h-9 border-b line flex-none gap-2">
        <h2 className="font-semibold">Dials</h2>
        <Choice
          className="field mr-auto w-40"
          aria-label="Dials of the look"
          value={trying.lookId}
          onChange={(v) => onTry({ ...trying, lookId: v, values: {} })}
        >
          {looks.map((v) => (
            <option key={v.lookId} value={v.lookId}>
              {v.document.name}
            </option>
          ))}
        </Choice>
        <button className="word" onClick={onClose}>
          close
        </button>
      </div>
      {!version ? (
        <p className="p-3 quiet">No clip here wears a look yet: choose clips, then assign one.</p>
      ) : (
        <>
          <div className="p-3 border-b line flex flex-col gap-1.5">
            <span className="flex" role="group" aria-label="Dials set">
              {(['look', 'clips'] as const).map((whose) => (
                <button
                  key={whose}
                  aria-pressed={trying.whose === whose}
                  className={`word ${trying.whose === whose ? 'framed' : ''}`}
                  onClick={() => onTry({ ...trying, whose, values: {} })}
                >
                  {whose === 'look' ? `the look v${version.number}` : 'the chosen clips'}
                </button>
              ))}
              <span className="num quiet self-center ml-auto">
                {targets.length} tile{targets.length === 1 ? '' : 's'}
              </span>
            </span>
            {version.document.dials.map((d) => (
              <div
                key={d.key}
                className="grid grid-cols-[96px_1fr] items-center gap-2"
                data-dial={d.key}
              >
                <span className="truncate">
                  {d.key in trying.values && <span className="text-primary">◆ </span>}
                  {d.label}
                </span>
                <DialControl
                  dial={d}
                  value={own(d)}
                  reset={typeof d.value === 'number' ? d.value : undefined}
                  onTurn={(v) => onTry({ ...trying, values: { ...trying.values, [d.key]: v } })}
                  onEnd={NOTHING}
                />
              </div>
            ))}
            <div className="flex gap-2 pt-1">
              {trying.whose === 'look' ? (
                <button
                  className="word main"
                  disabled={changed === 0}
                  onClick={() =>
                    onSave(version, {
                      ...version.document,
                      dials: version.document.dials.map((d) => ({
                        ...d,
                        value: trying.values[d.key] ?? d.value,
                      })),
                    })
                  }
                >
                  save version {version.number + 1} …
                </button>
              ) : (
                <button
                  className="word main"
                  disabled={changed === 0 || targets.length === 0}
                  onClick={onTrim}
                >
                  trim {targets.length} clip{targets.length === 1 ? '' : 's'}
                </button>
              )}
              <button
                className="word"
                disabled={changed === 0}
                onClick={() => onTry({ ...trying, values: {} })}
              >
                put back
              </button>
            </div>
            {trying.whose === 'clips' && targets.length === 0 && (
              <p className="quiet">
                Choose tiles that wear {version.document.name}: what you turn is theirs alone.
              </p>
            )}
          </div>
          {goalDials(version.document).length > 0 && (
            <Goals
              goals={goals}
              version={version}
              targets={trying.whose === 'clips' ? targets : []}
              onAimed={onAimed}
            />
          )}
          <AgeingSection drifting={drifting} version={version} clips={wearing} onTake={onAged} />
          <h3 className="px-3 pt-2 font-medium flex-none">
            Trims <span className="num quiet">{trims.length}</span>
          </h3>
          <ul aria-label="Trims" className="flex-1 scrolls min-h-0 px-3 pb-3">
            {trims.length === 0 && (
              <li className="quiet py-1">Every clip wears {version.document.name} as it is.</li>
            )}
            {trims.map((c) => (
              <li key={c.id} className="py-1.5 border-b line" data-trims={c.name}>
                <div className="flex items-center gap-1">
                  <span className="font-medium truncate mr-auto">{c.name}</span>
                  <button
                    className="word quiet"
                    disabled={
                      !chosen.some((o) => o.id !== c.id && o.look?.lookId === trying.lookId)
                    }
                    title={`Gives the chosen clips the trims of ${c.name}`}
                    onClick={() => onCopy(c)}
                  >
                    copy to chosen
                  </button>
                  <button className="word quiet" onClick={() => onClear(c)}>
                    clear
                  </button>
                </div>
                <ClipTrims look={version.document} trims={c.trims[trying.lookId]!} />
              </li>
            ))}
          </ul>
        </>
      )}
    </aside>
  );
}

function ClipTrims({
  look,
  trims,
}: {
  look: LookDocument;
  trims: Readonly<Record<string, DialValue>>;
}) {
  const lost = lostTrims(look, trims);
  return (
    <span className="flex flex-wrap gap-x-3">
      {Object.entries(trims).map(([key, v]) => {
        const dial = look.dials.find((d) => d.key === key);
        return (
          <span key={key} className="quiet">
            {dial?.label ?? key} <span className="num">{said(dial, v)}</span>
            {lost.includes(key) && <span role="status"> does nothing: the dial has gone</span>}
          </span>
        );
      })}
    </span>
  );
}

interface GoalsProps {
  readonly goals: GoalProposals;
  readonly version: VersionView;
  /** The chosen clips that wear the look. */
  readonly targets: readonly ClipView[];
  readonly onAimed: () => void;
}

/** Goals of dials on each clip: proposed as trims, shown on the tiles, applied on confirmation. */
function Goals({ goals, version, targets, onAimed }: GoalsProps) {
  const { proposals, left } = goals;
  const changed = proposals.filter((p) =>
    p.dials.some((d) => d.to.reached && d.to.value !== d.from),
  );
  return (
    <section aria-label="Goals" className="px-3 py-2 border-b line flex flex-col gap-1">
      <h3 className="font-medium">Goals</h3>
      <ul>
        {goalDials(version.document).map((d) => (
          <li key={d.key}>
            {d.label}: <span className="quiet">{goalWords(d.goal)}</span>
          </li>
        ))}
      </ul>
      {proposals.length === 0 && left === 0 ? (
        <button
          className="word framed self-start"
          disabled={targets.length === 0}
          onClick={() => void goals.propose(targets, version)}
        >
          {targets.length === 0
            ? 'choose clips to reach them'
            : `reach on ${targets.length} clip${targets.length === 1 ? '' : 's'}`}
        </button>
      ) : (
        <>
          {left > 0 && (
            <p role="status">
              measuring: {proposals.length} of {proposals.length + left} clips are done
            </p>
          )}
          <ul className="scrolls max-h-44">
            {proposals.map((p) => (
              <li key={p.clip.id} className="py-1" data-aimed={p.clip.name}>
                <span className="font-medium">{p.clip.name}</span>
                {p.dials.map(({ dial, from, figure, to }) => (
                  <span key={dial.key} className="num quiet block">
                    {to.reached
                      ? `${dial.label} ${said(dial, from)} → ${said(dial, to.value)} · ${figure.toFixed(1)} → ${to.figure.toFixed(1)} %`
                      : `${dial.label} stays: ${figure.toFixed(1)} %, at best ${to.figure.toFixed(1)} % at ${said(dial, to.value)}`}
                  </span>
                ))}
              </li>
            ))}
          </ul>
          <div className="flex gap-2">
            <button
              className="word main"
              disabled={left > 0 || changed.length === 0}
              onClick={onAimed}
            >
              trim {changed.length} clip{changed.length === 1 ? '' : 's'}
            </button>
            <button className="word" onClick={goals.stop}>
              {left > 0 ? 'stop' : 'leave them'}
            </button>
          </div>
        </>
      )}
    </section>
  );
}
