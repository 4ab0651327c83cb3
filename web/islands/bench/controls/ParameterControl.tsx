import { Fragment } from 'react';
import {
  type Colour,
  type CubeValue,
  type CurvePoints,
  type Dial,
  edit,
  type LookDocument,
  type Parameter,
  type ColourPlace,
  type Ellipse,
  type Line,
  type ParameterValue,
  type Path,
  type Point,
  pickedNumber,
  resolve,
  type Setting,
} from '../../../../core';
import { useBench, useStoreItself } from '../context';
import { alike, centres, Following, leadsTo } from './Following';
import { ColourControl } from './ColourControl';
import { CubeControl } from './CubeControl';
import { CurveControl } from './CurveControl';
import { NumberControl } from './NumberControl';
import { NumberField } from './NumberField';
import { PickButton } from './PickButton';
import { hasHandle, useHandle } from '../handles';
import { PointControl } from './PointControl';
import { ColoursControl, EllipseControl, LineControl, PathControl, TextControl } from './ShapeControls';

interface Props {
  readonly parameter: Parameter;
  readonly setting: Setting;
  readonly name: string;
  readonly onSetting: (look: LookDocument, s: Setting) => LookDocument;
  readonly reset: ParameterValue;
  /** Whether it can lie at a middle that is measured in the picture. */
  readonly measured?: boolean;
  /** `layer/step/parameter`, where others can follow it; of a matte's parameter the matte's path. */
  readonly own?: string;
}

const CLIP = 'clip';
const suits = (d: Dial, p: Parameter): boolean => d.kind === p.kind && d.key !== 'strength';

/** One parameter: its control, and which dial drives it. */
export function ParameterControl({ parameter: p, setting, name, onSetting, reset, own, measured = false }: Props) {
  const look = useBench((s) => s.still),
    change = useBench((s) => s.change),
    end = useBench((s) => s.endGesture),
    store = useStoreItself();
  // A value that is picked or placed comes later: it belongs to the look as it is then.
  const put = (s: Setting, gesture?: string) => change(name, onSetting(store.getState().look, s), gesture && `${name} ${gesture}`);
  // What a dial drives is told by the dial; all that is shown here is constant.
  const value = resolve(look, setting, {}),
    valueNow = () => resolve(store.getState().look, setting, {});
  const pin = 'pin' in setting ? setting.pin : undefined;
  const centre = 'centre' in setting ? setting.centre : undefined;
  const driven = 'dial' in setting ? look.dials.find((d) => d.key === setting.dial) : undefined;
  useHandle(hasHandle(p) && pin === undefined && centre === undefined && !driven, {
    label: p.label,
    parameter: p,
    value,
    put: (v, g) => put({ value: v }, g),
    end,
  });
  const drive = (key: string) => {
    if (key === '') return put({ value: valueNow() });
    if (key === CLIP) return put({ clip: 'standing-out' });
    if (key.includes('/')) return put({ follows: key });
    const range = p.kind === 'number' ? { from: p.soft?.[0] ?? p.min, to: p.soft?.[1] ?? p.max } : {};
    if (key !== '+') return put({ dial: key, ...range });
    const dial: Dial =
      p.kind === 'number'
        ? {
            key: p.id,
            label: p.label,
            kind: 'number',
            min: p.soft?.[0] ?? p.min,
            max: p.soft?.[1] ?? p.max,
            unit: p.unit === 'encoded' ? '' : p.unit,
            value: valueNow() as number,
          }
        : { key: p.id, label: p.label, kind: p.kind as 'colour' | 'switch', value: valueNow() as never };
    change(`new dial ${p.label}`, (now) => {
      const more = edit.addDial(now, dial);
      return onSetting(more, { dial: more.dials.at(-1)!.key, ...range });
    });
  };
  const body = () => {
    if (driven && p.kind === 'number' && 'dial' in setting) {
      return (
        <span className="flex items-center">
          {(['from', 'to'] as const).map((k) => (
            <Fragment key={k}>
              {k === 'to' && (
                <span aria-hidden="true" className="quiet px-1">
                  →
                </span>
              )}
              <NumberField
                className="flex-1 w-0"
                label={`${p.label} ${k}`}
                help={`${p.label} at the ${k === 'from' ? 'low' : 'high'} end of the dial ${driven.label}`}
                value={setting[k] ?? 0}
                min={p.min}
                max={p.max}
                soft={p.soft}
                unit={p.unit}
                onChange={(v, g) => put({ ...setting, [k]: v }, g)}
                onEnd={end}
              />
            </Fragment>
          ))}
        </span>
      );
    }
    if ('follows' in setting) return <Following setting={setting} kind={p.kind} put={put} end={end} />;
    if ('clip' in setting) return <span className="quiet">stands out from each clip</span>;
    if (driven) return <span className="quiet">by the dial {driven.label}</span>;
    if (pin !== undefined) return <span className="quiet">where each clip sets {look.pins?.find((k) => k.key === pin)?.label}</span>;
    if (centre !== undefined)
      return <span className="quiet truncate">at the middle of {centres(look, undefined, true).find((c) => c.path === centre)?.label}</span>;
    switch (p.kind) {
      case 'number':
        return (
          <span className="flex items-center min-w-0">
            <span className="flex-1 min-w-0">
              <NumberControl
                label={p.label}
                help={p.help}
                value={value as number}
                min={p.min}
                max={p.max}
                soft={p.soft}
                unit={p.unit}
                reset={reset as number}
                onChange={(v, g) => put({ value: v }, g)}
                onEnd={end}
              />
            </span>
            {p.picked && <PickButton label={p.label} onPicked={(c) => put({ value: pickedNumber(p, c) })} />}
          </span>
        );
      case 'colour':
        return <ColourControl label={p.label} value={value as Colour} onChange={(v, g) => put({ value: v }, g)} onEnd={end} />;
      case 'switch':
        return (
          <input
            type="checkbox"
            className="tick"
            aria-label={p.label}
            checked={value as boolean}
            onChange={(e) => put({ value: e.target.checked })}
          />
        );
      case 'choice':
        return (
          <select className="field" aria-label={p.label} value={value as string} onChange={(e) => put({ value: e.target.value })}>
            {p.options.map((o) => (
              <option key={o.id} value={o.id}>
                {o.label}
              </option>
            ))}
          </select>
        );
      case 'point':
        return <PointControl label={p.label} value={value as Point} onChange={(v, g) => put({ value: v }, g)} onEnd={end} />;
      case 'line':
        return <LineControl label={p.label} value={value as Line} onChange={(v, g) => put({ value: v }, g)} onEnd={end} />;
      case 'ellipse':
        return <EllipseControl label={p.label} value={value as Ellipse} onChange={(v, g) => put({ value: v }, g)} onEnd={end} />;
      case 'path':
        return <PathControl label={p.label} value={value as Path} onChange={(v, g) => put({ value: v }, g)} onEnd={end} />;
      case 'colours':
        return <ColoursControl label={p.label} value={value as readonly ColourPlace[]} onChange={(v, g) => put({ value: v }, g)} onEnd={end} />;
      case 'text':
        return <TextControl label={p.label} value={value as string} onChange={(v) => put({ value: v })} />;
      case 'cube':
        return <CubeControl label={p.label} value={value as CubeValue | null} onChange={(v) => put({ value: v })} />;
      case 'curve':
        return <CurveControl label={p.label} points={value as CurvePoints} onChange={(v, g) => put({ value: v }, g)} onEnd={end} />;
    }
  };
  const bound = 'follows' in setting ? setting.follows : 'clip' in setting ? CLIP : undefined;
  const bindable = p.kind === 'number' || p.kind === 'colour' || p.kind === 'switch';
  return (
    <div className="grid grid-cols-[74px_1fr_18px] items-center gap-x-1.5 min-h-6">
      <span className="quiet truncate" title={p.help ?? p.label}>
        {p.label}
      </span>
      {body()}
      {(p.kind === 'point' || p.kind === 'line' || p.kind === 'ellipse') && (
        <span
          className="relative w-[18px] h-[18px] grid place-items-center rounded-sm hover:bg-base-300"
          title={
            pin !== undefined ? 'set by a pin' : centre !== undefined ? 'follows a matte' : 'set by a pin of each clip, or the middle of a matte'
          }
        >
          <span
            aria-hidden="true"
            className={`w-[7px] h-[7px] rounded-full border ${pin === undefined && centre === undefined ? 'border-current opacity-50' : 'bg-base-content border-base-content'}`}
          />
          <select
            className="absolute inset-0 opacity-0 cursor-pointer"
            aria-label={`${p.label} is set by`}
            value={pin ?? centre ?? ''}
            onChange={(e) => {
              const to = e.target.value;
              const shape = p.kind === 'ellipse' && { shape: value as Ellipse };
              put(to === '' ? { value: valueNow() } : to.includes('/') ? { centre: to, ...shape } : { pin: to, ...shape });
            }}
          >
            <option value="">a constant</option>
            {look.pins
              ?.filter((k) => k.kind === (p.kind === 'line' ? 'line' : 'point'))
              .map((k) => (
                <option key={k.key} value={k.key}>
                  {k.label}
                </option>
              ))}
            {p.kind !== 'line' && (
              <optgroup label="the middle of a matte">
                {centres(look, own, measured).map((c) => (
                  <option key={c.path} value={c.path}>
                    {c.label}
                  </option>
                ))}
              </optgroup>
            )}
          </select>
        </span>
      )}
      {bindable && (
        <span
          className="relative w-[18px] h-[18px] grid place-items-center rounded-sm hover:bg-base-300"
          title={driven ? `driven by the dial ${driven.label}` : bound ? 'follows' : 'drive by a dial, or follow another'}
        >
          <span
            aria-hidden="true"
            className={`w-[7px] h-[7px] rounded-full border ${driven || bound ? 'bg-base-content border-base-content' : 'border-current opacity-50'}`}
          />
          <select
            className="absolute inset-0 opacity-0 cursor-pointer"
            aria-label={`${p.label} is driven by`}
            value={driven?.key ?? bound ?? ''}
            onChange={(e) => drive(e.target.value)}
          >
            <option value="">a constant</option>
            {look.dials
              .filter((d) => suits(d, p))
              .map((d) => (
                <option key={d.key} value={d.key}>
                  {d.label}
                </option>
              ))}
            <option value="+">a new dial</option>
            {p.kind === 'colour' && <option value={CLIP}>what stands out from each clip</option>}
            {p.kind !== 'switch' && (
              <optgroup label="follow">
                {alike(look, p.kind)
                  .filter((o) => o.path !== own && !leadsTo(look, o.path, own))
                  .map((o) => (
                    <option key={o.path} value={o.path}>
                      {o.label}
                    </option>
                  ))}
              </optgroup>
            )}
          </select>
        </span>
      )}
    </div>
  );
}
