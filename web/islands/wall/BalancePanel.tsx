import { useEffect, useState } from 'react';
import {
  type Balance,
  balanceFrom,
  CDL_SPACES,
  type CdlSpace,
  NEUTRAL_BALANCE,
  type ThreeWay,
  threeWayOf,
} from '../../../core';
import { call } from '../../data/http';
import type { ClipView, ProjectView, ReferenceView } from '../../data/views';
import { readCdl } from '../../engine/client/files';
import { FileButton } from '../../components/FileButton';
import { NumberControl } from '../../components/NumberControl';
import { NumberField } from '../../components/NumberField';
import { Wheel } from '../bench/controls/Wheel';
import { isMeasured, type Proposal, type Wish } from '../../domain/balance-proposals';
import { Choice } from '../../components/Choice';

const signed = (v: number): string =>
  `${Math.round(v * 100) < 0 ? '−' : '+'}${Math.abs(v).toFixed(2)}`;

interface Props {
  readonly project: ProjectView;
  readonly references: readonly ReferenceView[];
  readonly chosen: readonly ClipView[];
  readonly wish: Wish;
  readonly onWish: (w: Wish) => void;
  readonly proposed: readonly Proposal[];
  /** A balance made by hand for the only chosen clip. */
  readonly hand: Balance | null;
  readonly onHand: (b: Balance | null) => void;
  readonly onApply: () => void;
  readonly onTakeOff: () => void;
  readonly onHold: (before: boolean) => void;
  readonly onClose: () => void;
}

const NOTHING = (): void => {};

/**
 * Balance and match: the target of the chosen clips, the strength, and figures before and after;
 * the tiles show the result at once.
 */
export function BalancePanel({
  project,
  references,
  chosen,
  wish,
  onWish,
  proposed,
  hand,
  onHand,
  onApply,
  onTakeOff,
  onHold,
  onClose,
}: Props) {
  const waiting = project.clips.filter((c) => !isMeasured(c)).length;
  const lacks = waiting > 0;
  useEffect(() => {
    if (lacks) void call('POST', `/api/projects/${project.id}/measure`).catch(NOTHING);
  }, [project.id, lacks]);
  const number = (
    id: 'strength' | 'stops' | 'cast',
    label: string,
    help: string,
    max: number,
    unit: string,
    scale = 1,
  ) => (
    <label className="grid grid-cols-[88px_1fr] items-center gap-2" title={help}>
      <span className="quiet">{label}</span>
      <NumberControl
        label={label}
        value={wish[id] * scale}
        min={0}
        max={max}
        unit={unit}
        onChange={(v) => onWish({ ...wish, [id]: v / scale })}
        onEnd={NOTHING}
      />
    </label>
  );
  return (
    <aside
      aria-label="Balance"
      className="w-[340px] flex-none border-l line bg-base-200 flex flex-col min-h-0"
    >
      <div className="flex items-center px-3 h-9 border-b line flex-none">
        <h2 className="font-semibold mr-auto">Balance</h2>
        <button className="word" onClick={onClose}>
          close
        </button>
      </div>
      <div className="p-3 flex flex-col gap-2 border-b line">
        <label className="grid grid-cols-[88px_1fr] items-center gap-2">
          <span className="quiet">bring to</span>
          <Choice
            className="field min-w-0"
            value={wish.to}
            onChange={(v) => onWish({ ...wish, to: v })}
          >
            <option value="common">all clips’ common ground</option>
            {project.clips.filter(isMeasured).map((c) => (
              <option key={c.id} value={c.id}>
                {c.name}
              </option>
            ))}
            {references.length > 0 && (
              <optgroup label="references">
                {references.map((r) => (
                  <option key={r.id} value={`reference:${r.id}`}>
                    {r.name}
                  </option>
                ))}
              </optgroup>
            )}
          </Choice>
        </label>
        {number('strength', 'strength', 'How much of the way', 100, '%', 100)}
        {number('stops', 'most stops', 'No clip is made lighter or darker by more stops', 4, '')}
        {number(
          'cast',
          'most colour',
          'No more stops of red or blue are given or taken, against green',
          3,
          '',
        )}
      </div>
      {waiting > 0 && (
        <p role="status" className="px-3 py-2 border-b line">
          measuring: {project.clips.length - waiting} of {project.clips.length} clips are done
        </p>
      )}
      {chosen.length === 1 && <ByHand clip={chosen[0]!} hand={hand} onHand={onHand} />}
      <div className="flex-1 scrolls min-h-0">
        {chosen.length === 0 ? (
          <p className="p-3 quiet">Choose clips to balance: click tiles, or Ctrl A for all.</p>
        ) : (
          <table className="w-full num">
            <thead className="quiet text-left">
              <tr>
                <th className="px-3 py-1 font-normal">clip</th>
                <th className="font-normal" title="Middle tone in code values">
                  middle
                </th>
                <th className="font-normal" title="Red of what seems grey, in stops against green">
                  red
                </th>
                <th className="font-normal" title="Blue of what seems grey, in stops against green">
                  blue
                </th>
              </tr>
            </thead>
            <tbody>
              {proposed.map(({ clip, now, then }) => (
                <tr key={clip.id} className="border-t line align-top" data-balance={clip.name}>
                  <td className="px-3 py-1 max-w-28 truncate font-sans text-[13px]">{clip.name}</td>
                  {[
                    [now.middle.toFixed(2), then.middle.toFixed(2)],
                    [signed(now.red), signed(then.red)],
                    [signed(now.blue), signed(then.blue)],
                  ].map(([a, b], i) => (
                    <td key={i} className="py-1 pr-2">
                      <span className="quiet">{a}</span>
                      <br />
                      {b}
                    </td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
        )}
      </div>
      <div className="p-3 border-t line flex gap-2">
        <button className="word main" disabled={proposed.length === 0 && !hand} onClick={onApply}>
          {hand
            ? `balance ${chosen[0]?.name ?? ''} by hand`
            : `balance ${proposed.length} clip${proposed.length === 1 ? '' : 's'}`}
        </button>
        <button
          className="word"
          onPointerDown={() => onHold(true)}
          onPointerUp={() => onHold(false)}
          onPointerLeave={() => onHold(false)}
          title="Hold to see the chosen clips as they are now"
        >
          hold: before
        </button>
        <button
          className="word quiet ml-auto"
          disabled={!chosen.some((c) => c.balance)}
          onClick={onTakeOff}
        >
          take off
        </button>
      </div>
    </aside>
  );
}

const WAYS = ['lift', 'gamma', 'gain'] as const;
const CHANNELS = ['red', 'green', 'blue'] as const;

/**
 * Reads a correction from a decision list. As such files define it: on the clip's code values,
 * clamped to 0…1.
 */
function ReadList({ onRead }: { onRead: (b: Balance) => void }) {
  const [trouble, setTrouble] = useState<string | null>(null);
  const bring = async (f: File) => {
    const read = await readCdl(f);
    setTrouble('trouble' in read ? read.trouble : null);
    if ('trouble' in read) return;
    const { slope, offset, power, saturation } = read.value[0]!;
    onRead({ slope, offset, power, saturation, on: 'clip', hold: true });
  };
  return (
    <div className="pt-1">
      <FileButton
        label="Decision list for the balance"
        accept=".cc,.ccc,.cdl"
        onFile={(f) => void bring(f)}
      >
        read a decision list
      </FileButton>
      {trouble && <p role="alert">{trouble}</p>}
    </div>
  );
}

/** A clip's balance as a three-way, starting from its current one; its tile shows it at once. */
function ByHand({
  clip,
  hand,
  onHand,
}: {
  clip: ClipView;
  hand: Balance | null;
  onHand: (b: Balance | null) => void;
}) {
  if (!hand)
    return (
      <div className="px-3 py-2 border-b line">
        <button className="word framed" onClick={() => onHand(clip.balance ?? NEUTRAL_BALANCE)}>
          balance {clip.name} by hand
        </button>
      </div>
    );
  const way = threeWayOf(hand);
  const { on = 'srgb', hold = false } = hand;
  const put = (part: Partial<ThreeWay>) =>
    onHand({ ...balanceFrom({ ...way, ...part }), on, hold });
  const mean = (c: readonly [number, number, number]) =>
    Math.round(((c[0] + c[1] + c[2]) / 3) * 100) / 100;
  return (
    <section aria-label="By hand" className="px-3 py-2 border-b line">
      <div className="grid grid-cols-[44px_repeat(3,minmax(0,1fr))] gap-x-1 gap-y-0.5 items-center">
        <span />
        {WAYS.map((w) => (
          <span key={w} className="grid justify-items-center">
            <Wheel
              label={w}
              value={way[w]}
              reach={50}
              onChange={(v) => put({ [w]: v })}
              onEnd={NOTHING}
            />
            <span className="quiet">{w}</span>
          </span>
        ))}
        <span className="quiet">all</span>
        {WAYS.map((w) => (
          <NumberField
            key={w}
            className="w-full !text-center"
            label={`${w} all`}
            value={mean(way[w])}
            min={-100}
            max={100}
            soft={[-50, 50]}
            unit="%"
            reset={0}
            onChange={(v) => put({ [w]: way[w].map((x) => x + v - mean(way[w])) })}
            onEnd={NOTHING}
          />
        ))}
        {CHANNELS.map((c, i) => [
          <span key={c} className="quiet">
            {c}
          </span>,
          ...WAYS.map((w) => (
            <NumberField
              key={`${w} ${c}`}
              className="w-full !text-center"
              label={`${w} ${c}`}
              value={way[w][i]!}
              min={-100}
              max={100}
              soft={[-50, 50]}
              unit="%"
              reset={0}
              onChange={(v) => put({ [w]: way[w].map((x, k) => (k === i ? v : x)) })}
              onEnd={NOTHING}
            />
          )),
        ])}
      </div>
      <div className="flex items-center gap-2 pt-1">
        <span className="quiet">saturation</span>
        <NumberField
          label="saturation"
          value={way.saturation * 100}
          min={0}
          max={400}
          soft={[0, 200]}
          unit="%"
          reset={100}
          onChange={(v) => put({ saturation: v / 100 })}
          onEnd={NOTHING}
        />
        <button className="word quiet ml-auto" onClick={() => onHand(null)}>
          leave it
        </button>
      </div>
      <div className="flex items-center gap-2 pt-1">
        <span className="quiet">acts on</span>
        <Choice
          className="field min-w-0 flex-1"
          aria-label="What the balance acts on"
          value={on}
          onChange={(v) => onHand({ ...hand, on: v as CdlSpace, hold })}
        >
          {Object.entries(CDL_SPACES).map(([id, words]) => (
            <option key={id} value={id}>
              {words}
            </option>
          ))}
        </Choice>
        <label
          className="flex items-center gap-1"
          title="As the standard for decision lists has it; off, light beyond white survives."
        >
          <input
            type="checkbox"
            className="tick"
            checked={hold}
            onChange={(e) => onHand({ ...hand, on, hold: e.target.checked })}
          />
          hold to 0–1
        </label>
      </div>
      <ReadList onRead={onHand} />
    </section>
  );
}
