import { useRef, useState } from 'react';
import {
  type Asking,
  BALANCE_DEFAULTS,
  BEYOND,
  type Beyond,
  CENTRED,
  type ClipPins,
  type Fit,
  FITS,
  type FootagePin,
  footageFrame,
  type PinAsk,
} from '../../core';
import type { ClipView, ProjectView } from '../data/views';
import { NumberField } from './NumberField';
import { proposals } from '../domain/balance-proposals';
import { withoutPin, withPin } from '../domain/pins';
import { Choice } from './Choice';
import { ReframeFields } from './ReframeFields';

interface Props {
  readonly pin: PinAsk;
  readonly look: Asking | null;
  readonly clip: ClipView;
  readonly project: ProjectView;
  /** The current frame of the clip. */
  readonly frame: number;
  readonly onPins: (pins: ClipPins, name: string) => void;
}

const FIT_WORDS: Record<Fit, string> = {
  fit: 'fits whole',
  fill: 'fills',
  stretch: 'stretches',
  stay: 'stays as large as it is',
};
/** The option for a matte that is drawn by hand. */
const BY_HAND = 'by-hand';
const momentId = (at: FootagePin['at']): string =>
  at === undefined ? '' : at === 'end' ? 'end' : `cue ${at.cue}`;
const BEYOND_WORDS: Record<Beyond, string> = {
  again: 'begins again',
  'to-and-fro': 'goes back and forth',
  hold: 'holds',
  end: 'is clear',
};

/** Differences between a matte file and its clip, as text. */
function troubles(clip: ClipView, file: ClipView, { start }: FootagePin): string[] {
  const rate = (c: ClipView) => c.rate[0] / c.rate[1];
  return [
    ...(rate(clip) !== rate(file)
      ? [`${rate(file).toFixed(2)} frames a second, the clip has ${rate(clip).toFixed(2)}`]
      : []),
    ...(file.frames - start < clip.frames
      ? [`ends ${clip.frames - (file.frames - start)} frames before the clip`]
      : []),
    ...(start < 0 ? [`begins ${-start} frames into the clip`] : []),
  ];
}

/** Chooses the footage of a pin, its start frame and its speed. */
export function FootageChooser({ pin, look, clip, project, frame, onPins }: Props) {
  const set = clip.pins[pin.key]?.[0];
  const now = set && 'hash' in set ? set : null,
    byHand = set !== undefined && !now;
  const others = [...project.plates, ...project.clips].filter((c) => c.id !== clip.id);
  const cues = (look?.pins ?? []).filter((p) => p.kind === 'cue');
  const file = others.find((c) => c.hash === now?.hash);
  const [typed, setTyped] = useState<FootagePin | null>(null);
  const latest = useRef<FootagePin | null>(null);
  const type = (v: FootagePin | null) => {
    latest.current = v;
    setTyped(v);
  };
  const shown = typed ?? now;
  const put = (v: FootagePin) =>
    onPins(withPin(clip.pins, { ...pin, many: false }, v), `${pin.label} of ${clip.name}`);
  const end = () => {
    if (latest.current) put(latest.current);
    type(null);
  };
  /** The balance that matches the file to the clip, once both are measured. */
  const matched =
    file &&
    proposals([file, clip], new Set([file.id]), { to: clip.id, ...BALANCE_DEFAULTS })[0]?.balance;
  const beside = file && shown && footageFrame(shown, frame, clip, file);
  return (
    <div className="flex flex-col gap-1">
      <Choice
        className="field"
        aria-label={`${pin.label} of ${clip.name}`}
        value={file?.id ?? (byHand ? BY_HAND : '')}
        onChange={(v) => {
          const chosen = others.find((c) => c.id === v);
          if (v === BY_HAND) return;
          if (chosen) put({ start: 0, speed: 1, ...now, hash: chosen.hash });
          else onPins(withoutPin(clip.pins, pin.key), `clear ${pin.label} of ${clip.name}`);
        }}
      >
        <option value="">
          {pin.kind === 'matte' ? 'none: the whole frame' : 'none: the clip itself'}
        </option>
        {byHand && <option value={BY_HAND}>drawn by hand</option>}
        {others.map((c) => (
          <option key={c.id} value={c.id}>
            {c.name}
            {c.role === 'plate' ? ' (plate)' : ''}
          </option>
        ))}
      </Choice>
      {now && !file && <span className="quiet">what was set has left the project</span>}
      {file && shown && (
        <>
          <span className="flex items-center gap-1">
            <span className="quiet">its frame</span>
            <NumberField
              label={`${pin.label} start`}
              help={`The frame of it that is seen at the clip's ${shown.at === 'end' ? 'last' : shown.at ? 'cue' : 'first'}`}
              value={shown.start}
              min={-file.frames}
              max={file.frames - 1}
              unit="f"
              reset={0}
              onChange={(v) => type({ ...shown, start: Math.round(v) })}
              onEnd={end}
            />
            {pin.kind === 'footage' && (
              <>
                <span className="quiet">speed</span>
                <NumberField
                  label={`${pin.label} speed`}
                  value={shown.speed * 100}
                  min={1}
                  max={6400}
                  soft={[10, 400]}
                  unit="%"
                  reset={100}
                  onChange={(v) => type({ ...shown, speed: v / 100 })}
                  onEnd={end}
                />
              </>
            )}
          </span>
          <label className="grid grid-cols-[96px_1fr] items-center">
            <span className="quiet">beyond its end</span>
            <Choice
              className="field min-w-0"
              aria-label={`${pin.label} beyond its end`}
              value={shown.beyond ?? 'again'}
              onChange={(v) => put({ ...shown, beyond: v as Beyond })}
            >
              {BEYOND.map((b) => (
                <option key={b} value={b}>
                  {BEYOND_WORDS[b]}
                </option>
              ))}
            </Choice>
          </label>
          <label className="grid grid-cols-[96px_1fr] items-center">
            <span className="quiet">counted from</span>
            <Choice
              className="field min-w-0"
              aria-label={`${pin.label} counts from`}
              value={momentId(shown.at)}
              onChange={(v) => {
                const { at: _, ...plain } = shown;
                const cue = cues.find((c) => momentId({ cue: c.key }) === v);
                put(v === '' ? plain : { ...plain, at: cue ? { cue: cue.key } : 'end' });
              }}
            >
              <option value="">the clip’s first frame</option>
              <option value="end">the clip’s last frame</option>
              {cues.map((c) => (
                <option key={c.key} value={momentId({ cue: c.key })}>
                  {c.label}
                </option>
              ))}
            </Choice>
          </label>
          <label className="grid grid-cols-[96px_1fr] items-center">
            <span className="quiet">size</span>
            <Choice
              className="field min-w-0"
              aria-label={`${pin.label} size`}
              value={shown.fit ?? ''}
              onChange={(v) => {
                const { fit: _, ...plain } = shown;
                const fit = FITS.find((f) => f === v);
                put(fit ? { ...plain, fit } : plain);
              }}
            >
              <option value="">as {file.name} lies</option>
              {FITS.map((f) => (
                <option key={f} value={f}>
                  {FIT_WORDS[f]}
                </option>
              ))}
            </Choice>
          </label>
          {pin.kind === 'footage' && (
            <div role="group" aria-label={`How ${pin.label} lies`}>
              <label
                className="flex items-center gap-1"
                title={`Its place beside ${clip.name} alone`}
              >
                <input
                  type="checkbox"
                  className="tick"
                  checked={shown.reframe !== undefined}
                  onChange={(e) => {
                    const { reframe: _, ...plain } = shown;
                    put(
                      e.target.checked
                        ? { ...plain, reframe: (shown.fit ? null : file.reframe) ?? CENTRED }
                        : plain,
                    );
                  }}
                />
                <span className="quiet">lies here as said</span>
              </label>
              {shown.reframe && (
                <ReframeFields
                  name={pin.label}
                  value={shown.reframe}
                  onChange={(reframe) => type({ ...shown, reframe })}
                  onEnd={end}
                />
              )}
            </div>
          )}
          {pin.kind === 'footage' && (
            <label
              className="flex items-center gap-1"
              title={`Balances it to the tones and the grey of ${clip.name}, here alone`}
            >
              <input
                type="checkbox"
                className="tick"
                disabled={!matched && !shown.balance}
                checked={shown.balance !== undefined}
                onChange={(e) => {
                  const { balance: _, ...plain } = shown;
                  put(e.target.checked && matched ? { ...plain, balance: matched } : plain);
                }}
              />
              <span className="quiet">matched to {clip.name}</span>
            </label>
          )}
          <span className="num quiet">{beside === null ? 'ended' : `now its frame ${beside}`}</span>
          {pin.kind === 'matte' &&
            troubles(clip, file, shown).map((t) => (
              <span key={t} role="status">
                {t}
              </span>
            ))}
        </>
      )}
    </div>
  );
}
