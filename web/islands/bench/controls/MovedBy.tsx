import { Activity } from 'lucide-react';
import { memo } from 'react';
import {
  edit,
  keptMover,
  type LookDocument,
  type Parameter,
  type ParameterValue,
  unsuited,
  withKeptMover,
} from '../../../../core';
import { MOVERS } from '../../../../core/time';
import { Choice } from '../../../components/Choice';
import { usePieces } from '../../../data/queries';
import { useBench, useClipTime, usePlayheadNow, useStill } from '../context';
import { NO_KEYS } from '../store';

interface Props {
  readonly parameter: Parameter;
  readonly path: string;
  /** The value at the playhead. */
  readonly value: ParameterValue;
  /** The value after all movers; undefined if none moves it. */
  readonly moved: ParameterValue | undefined;
  readonly keyed: boolean;
}

/** Whether a piece holds a mover that can move this. */
const canMove = (piece: LookDocument, p: Parameter): boolean => {
  const mover = keptMover(piece);
  return mover !== undefined && !mover.keys?.some((k) => unsuited(p, k.value));
};
const inWords = (v: ParameterValue): string =>
  typeof v === 'number'
    ? String(Number(v.toFixed(2)))
    : typeof v === 'boolean'
      ? v
        ? 'on'
        : 'off'
      : Array.isArray(v)
        ? 'moved'
        : String(v);

/**
 * Shows what moves a parameter as a small curve, highlighted if something does; a click adds a
 * mover.
 */
export const MovedBy = memo(function MovedBy({ parameter: p, path, value, moved, keyed }: Props) {
  const change = useBench((s) => s.change),
    show = useBench((s) => s.show);
  const playhead = usePlayheadNow(),
    time = useClipTime();
  const own = useStill((look) =>
      edit.moversOf(look, path).map((m) => ({ key: m.key, name: m.name })),
    ),
    others = useStill((look) =>
      (look.movers ?? []).flatMap((m) =>
        m.targets.some((t) => t.path === path) ? [] : [{ key: m.key, name: m.name, kind: m.kind }],
      ),
    );
  const pieces = (usePieces().data ?? []).filter((k) => canMove(k.document, p));
  const choose = (id: string): void => {
    const [what, key = ''] = id.split(':');
    if (what === 'show') return show({ mover: key, keysChosen: NO_KEYS, timeOpen: true });
    const kept = what === 'kept' ? pieces.find((k) => k.id === key) : undefined;
    if (what === 'free')
      return change(`${p.label} moves no longer`, (now) =>
        own.reduce((doc, m) => edit.removeTarget(doc, m.key, path), now),
      );
    let made = '';
    change(`${p.label} moves`, (now) => {
      const with_ = others.find((m) => m.key === key);
      const target = with_ && edit.firstTarget(now, with_.kind, path);
      const first =
        key === 'keys' ? { at: edit.instantAt(now, playhead(), time), value } : undefined;
      const next = kept
        ? withKeptMover(now, kept.document, path)
        : what === 'with' && target
          ? edit.setTarget(now, key, target)
          : edit.addMover(now, key, path, first);
      made = what === 'with' ? key : (next.movers?.at(-1)?.key ?? '');
      return next;
    });
    show({ mover: made, keysChosen: NO_KEYS, timeOpen: true });
  };
  const isMoved = own.length > 0;
  return (
    <Choice
      aria-label={`${p.label} moves by`}
      title={
        isMoved
          ? `moved by ${own.map((m) => m.name).join(', ')}${moved === undefined ? '' : `: ${inWords(moved)} at this frame`}`
          : 'lets it move over time'
      }
      className={`w-[18px] h-[18px] grid place-items-center rounded-sm hover:bg-base-300 ${isMoved ? 'text-primary' : 'opacity-50'}`}
      value=""
      onChange={choose}
      face={<Activity size={12} strokeWidth={isMoved ? 2.5 : 1.5} aria-hidden="true" />}
    >
      {own.map((m) => (
        <option key={m.key} value={`show:${m.key}`}>
          show {m.name}
        </option>
      ))}
      {isMoved && <option value="free">does not move</option>}
      {!keyed && <option value="new:keys">keys</option>}
      {MOVERS.map((m) => (
        <option key={m.id} value={`new:${m.id}`} title={m.help}>
          {m.label.toLowerCase()}
        </option>
      ))}
      {pieces.length > 0 && (
        <optgroup label="a kept mover">
          {pieces.map((k) => (
            <option key={k.id} value={`kept:${k.id}`}>
              {k.name}
            </option>
          ))}
        </optgroup>
      )}
      {others.length > 0 && (
        <optgroup label="together with">
          {others
            .filter((m) => m.kind !== 'keys')
            .map((m) => (
              <option key={m.key} value={`with:${m.key}`}>
                {m.name}
              </option>
            ))}
        </optgroup>
      )}
    </Choice>
  );
});
