import { edit, type InstantUse, type LookDocument, type Setting } from '../../../core';
import {
  type ClipTime,
  frameOf,
  ORIGIN_WORDS,
  type Origin,
  ORIGINS,
  INSTANT_UNIT_WORDS,
  INSTANT_UNITS,
  type InstantUnit,
  type Which,
  WHICH,
} from '../../../core/time';
import { instantOf } from '../../../core';
import { Choice } from '../../components/Choice';
import { useBench, useClipTime, useStill } from './context';
import { ParameterControl } from './controls/ParameterControl';

interface Props {
  readonly label: string;
  readonly at: InstantUse;
  /** Whether it is inside a span whose ends can be its origin. */
  readonly inSpan?: boolean;
  /** Whether it may be at each of several cues. */
  readonly many?: boolean;
  /**
   * Not set by the user yet: choosing a cue moves it onto the cue. Once set, it stays on its frame.
   */
  readonly unset?: boolean;
  /** The clip's time before the look's retime, in which it counts. */
  readonly asShot?: ClipTime;
  readonly onInstant: (look: LookDocument, at: InstantUse) => LookDocument;
}

const OFFSET = {
  kind: 'number',
  id: 'offset',
  label: 'Offset',
  unit: '',
  min: -100_000,
  max: 100_000,
  soft: [-50, 50],
  default: 0,
} as const;

/**
 * Editor of an instant: origin, offset and unit. Once set, it stays on its frame here when the
 * origin changes.
 */
export function InstantEditor({
  label,
  at,
  inSpan = false,
  many = false,
  unset = false,
  asShot,
  onInstant,
}: Props) {
  const change = useBench((s) => s.change);
  const now = useClipTime(),
    time = asShot ?? now;
  const units = useStill(({ retime }) =>
    INSTANT_UNITS.filter(
      (u) => u !== 'shot-seconds' || at.unit === u || (retime !== undefined && !asShot),
    ),
  );
  const cues = useStill((look) =>
    (look.pins ?? []).flatMap((p) => (p.kind === 'cue' ? [{ key: p.key, label: p.label }] : [])),
  );
  const frame = useStill((look) => frameOf(instantOf(look, at, {}), time));
  const set = (to: (now: LookDocument) => InstantUse) =>
    change(`when ${label.toLowerCase()}`, (now) => onInstant(now, to(now)));
  const counted = (
    look: LookDocument,
    to: Pick<InstantUse, 'from' | 'cue' | 'share'>,
  ): InstantUse =>
    unset && to.cue !== undefined
      ? edit.onCue(look, to.cue, many)
      : edit.countFrom(look, at, to, time);
  const from = (id: string): void => {
    const [origin, cue] = id.split(':') as [Origin, string?];
    if (id === 'cue:+')
      return change('ask for a cue', (now) => {
        const asked = edit.addPin(now, {
          key: 'strike',
          label: 'Strike',
          kind: 'cue',
          many: false,
        });
        const key = asked.pins!.at(-1)!.key;
        return onInstant(asked, counted(asked, { from: 'cue', cue: key }));
      });
    set((now) =>
      counted(now, {
        from: origin,
        ...(cue !== undefined && { cue }),
        ...(origin === 'share' && { share: at.share ?? 50 }),
      }),
    );
  };
  return (
    <div className="border-l-2 line pl-2 my-0.5" data-instant={label}>
      <div className="flex items-center gap-1 min-h-6">
        <span className="quiet w-[74px] truncate flex-none">{label}</span>
        <Choice
          className="field min-w-0 flex-1"
          aria-label={`${label} counts from`}
          value={at.from === 'cue' ? `cue:${at.cue ?? ''}` : at.from}
          onChange={from}
        >
          {ORIGINS.filter((o) => o !== 'cue' && (inSpan || !o.startsWith('span'))).map((o) => (
            <option key={o} value={o}>
              {ORIGIN_WORDS[o]}
            </option>
          ))}
          <optgroup label="a cue">
            {cues.map((c) => (
              <option key={c.key} value={`cue:${c.key}`}>
                {c.label}
              </option>
            ))}
            <option value="cue:+">a new cue</option>
          </optgroup>
        </Choice>
        {at.from === 'cue' && (
          <Choice
            className="field w-[58px] flex-none"
            aria-label={`${label}: which cue`}
            value={at.which ?? 'first'}
            onChange={(v) => set(() => ({ ...at, which: v as Which }))}
          >
            {WHICH.filter((w) => many || w !== 'each').map((w) => (
              <option key={w}>{w}</option>
            ))}
          </Choice>
        )}
        <span className="num quiet flex-none" title="the frame of the hero on which it falls">
          {frame}
        </span>
      </div>
      {at.from === 'share' && (
        <ParameterControl
          parameter={{
            kind: 'number',
            id: 'share',
            label: 'Share',
            unit: '%',
            min: 0,
            max: 100,
            default: 50,
          }}
          setting={{ value: at.share ?? 50 }}
          name={`${label} share`}
          reset={50}
          onSetting={(look, s) =>
            onInstant(look, { ...at, share: 'value' in s ? (s.value as number) : 50 })
          }
        />
      )}
      <ParameterControl
        parameter={OFFSET}
        setting={at.offset ?? { value: 0 }}
        name={`${label} offset`}
        reset={0}
        onSetting={(look, s: Setting) => onInstant(look, { ...at, offset: s })}
      />
      <div className="flex items-center gap-1 min-h-6">
        <span className="quiet w-[74px] flex-none">Counted in</span>
        <Choice
          className="field min-w-0 flex-1"
          aria-label={`${label} counted in`}
          value={at.unit ?? 'seconds'}
          onChange={(v) => set((now) => inUnit(now, at, v as InstantUnit, frame, time))}
        >
          {units.map((u) => (
            <option key={u} value={u}>
              {INSTANT_UNIT_WORDS[u]}
            </option>
          ))}
        </Choice>
      </div>
    </div>
  );
}
/** The same frame in another unit. */
const inUnit = (
  look: LookDocument,
  at: InstantUse,
  unit: InstantUnit,
  frame: number,
  time: Parameters<typeof edit.instantAt>[2],
): InstantUse => edit.instantAt(look, frame, time, { ...at, unit });
