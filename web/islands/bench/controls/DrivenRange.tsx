import { Fragment } from 'react';
import type { NumberParameter, Setting } from '../../../../core';
import type { Named } from './Bindings';
import { NumberField } from '../../../components/NumberField';

type Driven = Extract<Setting, { dial: string }>;
interface Props {
  readonly parameter: NumberParameter;
  readonly setting: Driven;
  readonly dial: Named;
  readonly onSetting: (s: Driven, gesture: string) => void;
  readonly onEnd: () => void;
}

/** The range onto which a dial maps a number. */
export function DrivenRange({ parameter: p, setting, dial, onSetting, onEnd }: Props) {
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
            help={`${p.label} at the ${k === 'from' ? 'low' : 'high'} end of the dial ${dial.label}`}
            value={setting[k] ?? 0}
            min={p.min}
            max={p.max}
            soft={p.soft}
            unit={p.unit}
            onChange={(v, g) => onSetting({ ...setting, [k]: v }, g)}
            onEnd={onEnd}
          />
        </Fragment>
      ))}
    </span>
  );
}
