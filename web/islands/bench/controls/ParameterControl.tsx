import { useCallback, useRef } from 'react';
import {
  type Dial,
  edit,
  type Ellipse,
  type LookDocument,
  type Parameter,
  type ParameterValue,
  resolve,
  type Setting,
} from '../../../../core';
import {
  playheadOf,
  useBench,
  useClipTime,
  useHeroFacts,
  useMoved,
  usePlayheadNow,
  useStill,
  useStoreItself,
} from '../context';
import { hasHandle, useHandle } from '../handle';
import { CLIP, DrivenBy, PlacedBy, sizeId, sizeIn, type Named } from './Bindings';
import { ByPin } from './ByPin';
import { DrivenRange } from './DrivenRange';
import { centres, Following } from './Following';
import { MovedBy } from './MovedBy';
import { ValueControl } from './ValueControl';

interface Props {
  readonly parameter: Parameter;
  readonly setting: Setting;
  readonly name: string;
  readonly onSetting: (look: LookDocument, s: Setting) => LookDocument;
  readonly reset: ParameterValue;
  /** Whether it may be bound to a centre that is measured in the picture. */
  readonly measured?: boolean;
  /**
   * `layer/step/parameter`, if others can be linked to it; for a matte's parameter, the matte's
   * path.
   */
  readonly own?: string;
  /** Its path for movers; without it, it cannot be moved. */
  readonly path?: string;
}

const NO_NEIGHBOURS: readonly ParameterValue[] = [];
/** Values of a mover's keys before and after the playhead. */
function useNeighbours(mover: string | undefined): readonly ParameterValue[] {
  const hero = useHeroFacts(),
    time = useClipTime();
  const frame = useBench((s) => (mover === undefined ? 0 : playheadOf(hero, s)));
  return useStill((look) => {
    const own = mover === undefined ? undefined : edit.moverNamed(look, mover);
    if (!own) return NO_NEIGHBOURS;
    const keys = edit.keysOnClip(look, own, time);
    const beside = [keys.filter((k) => k.frame < frame).at(-1), keys.find((k) => k.frame > frame)];
    return beside.flatMap((k) => (k ? [own.keys![k.index]!.value] : []));
  });
}

const canBeDriven = ({ kind }: Parameter): boolean =>
  kind === 'number' || kind === 'colour' || kind === 'switch';
/**
 * A dial's name is the visible effect: “Glow” for a glow's amount, “Glow radius”, “Halo opacity”.
 */
const dialLabel = (name: string): string => {
  const seen = name.replace(/ amount$/, '');
  return seen.charAt(0).toUpperCase() + seen.slice(1);
};

/** A parameter's control, with what it is bound to and what moves it. */
export function ParameterControl({
  parameter: p,
  setting,
  name,
  onSetting,
  reset,
  own,
  path,
  measured = false,
}: Props) {
  const change = useBench((s) => s.change),
    end = useBench((s) => s.endGesture),
    store = useStoreItself();
  // Picked or placed values arrive later, so they apply to the look at that time.
  const put = (s: Setting, gesture?: string) =>
    change(name, onSetting(store.getState().look, s), gesture && `${name} ${gesture}`);
  // A driven value is shown by its dial, so everything shown here is constant.
  const value = useStill((still) => resolve(still, setting, {})),
    valueNow = () => resolve(store.getState().look, setting, {});
  const pin = 'pin' in setting ? setting.pin : undefined;
  const centre = 'centre' in setting ? setting.centre : undefined;
  const driven = useStill((still): Named | undefined => {
    const dial = 'dial' in setting ? still.dials.find((d) => d.key === setting.dial) : undefined;
    return dial && { key: dial.key, label: dial.label };
  });
  const elsewhere = useStill((still) =>
    pin !== undefined
      ? still.pins?.find((k) => k.key === pin)?.label
      : centre !== undefined
        ? centres(still, undefined, true).find((c) => c.path === centre)?.label
        : undefined,
  );
  /** Whether an oval of each clip says how large it is. */
  const isSized = useStill(
    (still) =>
      (p.kind === 'number' || p.kind === 'ellipse') &&
      still.pins?.some((k) => k.key === pin && k.kind === 'oval') === true,
  );
  const drive = (key: string) => {
    if (key === '') return put({ value: valueNow() });
    if (key === CLIP) return put({ clip: 'standing-out' });
    if (key.includes('/')) return put({ follows: key });
    const size = sizeIn(key);
    if (size) return put({ ...size, times: 100, without: valueNow() as number });
    const range =
      p.kind === 'number' ? { from: p.soft?.[0] ?? p.min, to: p.soft?.[1] ?? p.max } : {};
    if (key !== '+') return put({ dial: key, ...range });
    const dial: Dial =
      p.kind === 'number'
        ? {
            key: p.id,
            label: dialLabel(name),
            kind: 'number',
            min: p.soft?.[0] ?? p.min,
            max: p.soft?.[1] ?? p.max,
            unit: p.unit === 'encoded' ? '' : p.unit,
            value: valueNow() as number,
          }
        : {
            key: p.id,
            label: dialLabel(name),
            kind: p.kind as 'colour' | 'switch',
            value: valueNow() as never,
          };
    change(`new dial ${dial.label}`, (now) => {
      const more = edit.addDial(now, dial);
      return onSetting(more, { dial: more.dials.at(-1)!.key, ...range });
    });
  };
  const time = useClipTime(),
    playhead = usePlayheadNow(),
    keyed = useStill((look) =>
      path === undefined
        ? undefined
        : edit.moversOf(look, path).find((m) => m.kind === 'keys' && m.on)?.key,
    ),
    moved = useMoved(path, p, setting),
    byKeys = useMoved(path, p, setting, keyed ?? '');
  /** With keys, moving the control sets a key at the playhead. */
  const setKey = (v: ParameterValue, g?: string) =>
    change(
      `key of ${name}`,
      (now) => edit.setKey(now, keyed!, playhead(), time, v),
      g && `${name} key ${playhead()} ${g}`,
    );
  const neighbours = useNeighbours(hasHandle(p) ? keyed : undefined);
  useHandle(
    hasHandle(p) && (keyed !== undefined || (pin === undefined && centre === undefined && !driven)),
    {
      label: p.label,
      parameter: p,
      value: keyed !== undefined && byKeys !== undefined ? byKeys : value,
      ...(neighbours.length > 0 && { neighbours }),
      put: (v, g) => (keyed !== undefined ? setKey(v, g) : put({ value: v }, g)),
      end,
    },
  );
  const isFree = 'value' in setting && keyed === undefined;
  const body = () => {
    if (keyed !== undefined && byKeys !== undefined)
      return (
        <ValueControl parameter={p} value={byKeys} reset={reset} onValue={setKey} onEnd={end} />
      );
    if (driven && p.kind === 'number' && 'dial' in setting)
      return (
        <DrivenRange parameter={p} setting={setting} dial={driven} onSetting={put} onEnd={end} />
      );
    if ('follows' in setting)
      return <Following setting={setting} kind={p.kind} put={put} end={end} />;
    if ('clip' in setting) return <span className="quiet">stands out from each clip</span>;
    if (driven) return <span className="quiet">by the dial {driven.label}</span>;
    if ('pin' in setting)
      return (
        <ByPin
          setting={setting}
          label={p.label}
          pin={elsewhere}
          sized={isSized}
          onSetting={put}
          onEnd={end}
        />
      );
    if (centre !== undefined)
      return <span className="quiet truncate">at the middle of {elsewhere}</span>;
    return (
      <ValueControl
        parameter={p}
        value={value}
        reset={reset}
        onValue={(v, g) => put({ value: v }, g)}
        onEnd={end}
      />
    );
  };
  const placeBy = (to: string) => {
    const shape = p.kind === 'ellipse' && { shape: value as Ellipse };
    put(
      to === ''
        ? { value: valueNow() }
        : to.includes('/')
          ? { centre: to, ...shape }
          : { pin: to, ...shape },
    );
  };
  // The options are long lists that re-render when they change, not when the value does.
  const acts = useRef({ placeBy, drive });
  acts.current = { placeBy, drive };
  const onPlace = useCallback((to: string) => acts.current.placeBy(to), []),
    onDrive = useCallback((to: string) => acts.current.drive(to), []);
  const bound =
    'follows' in setting
      ? setting.follows
      : 'clip' in setting
        ? CLIP
        : 'pin' in setting && setting.of
          ? sizeId(setting.pin, setting.of)
          : undefined;
  return (
    <div
      className={`grid ${path === undefined ? 'grid-cols-[74px_1fr_18px]' : 'grid-cols-[74px_1fr_18px_18px]'} items-center gap-x-1 min-h-6`}
    >
      {isFree && canBeDriven(p) ? (
        <button
          className="quiet truncate text-left hover:underline decoration-dotted underline-offset-2"
          title={`${p.help ?? `${p.label}.`} Press to make it a dial.`}
          onClick={() => drive('+')}
        >
          {p.label}
        </button>
      ) : (
        <span className="quiet truncate" title={p.help ?? p.label}>
          {p.label}
        </span>
      )}
      {body()}
      {hasHandle(p) && p.kind !== 'colours' && (
        <PlacedBy
          parameter={p}
          own={own}
          measured={measured}
          pin={pin}
          centre={centre}
          onChoose={onPlace}
        />
      )}
      {canBeDriven(p) && (
        <DrivenBy parameter={p} own={own} dial={driven} bound={bound} onChoose={onDrive} />
      )}
      {path !== undefined && (
        <span className="col-start-4">
          <MovedBy
            parameter={p}
            path={path}
            value={moved ?? value}
            moved={moved}
            keyed={keyed !== undefined}
          />
        </span>
      )}
    </div>
  );
}
