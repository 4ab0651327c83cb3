import {
  type Colour,
  type ColourPlace,
  type LutValue,
  type CurvePoints,
  type Ellipse,
  type Line,
  type Parameter,
  type ParameterValue,
  type Path,
  pickedNumber,
  type Point,
} from '../../../../core';
import { ColourControl } from '../../../components/ColourControl';
import { CubeControl } from './CubeControl';
import { CurveControl } from './CurveControl';
import { NumberControl } from '../../../components/NumberControl';
import { PickButton } from '../../../components/PickButton';
import { PointControl } from './PointControl';
import {
  ColoursControl,
  EllipseControl,
  LineControl,
  PathControl,
  TextControl,
} from './ShapeControls';
import { Choice } from '../../../components/Choice';

interface Props {
  readonly parameter: Parameter;
  readonly value: ParameterValue;
  /** The value set by a double click. */
  readonly reset: ParameterValue;
  readonly onValue: (v: ParameterValue, gesture?: string) => void;
  readonly onEnd: () => void;
}

/** The control for a parameter's constant, by its kind. */
export function ValueControl({ parameter: p, value, reset, onValue, onEnd }: Props) {
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
              onChange={onValue}
              onEnd={onEnd}
            />
          </span>
          {p.picked && <PickButton label={p.label} onPicked={(c) => onValue(pickedNumber(p, c))} />}
        </span>
      );
    case 'colour':
      return (
        <ColourControl label={p.label} value={value as Colour} onChange={onValue} onEnd={onEnd} />
      );
    case 'switch':
      return (
        <input
          type="checkbox"
          className="tick"
          aria-label={p.label}
          checked={value as boolean}
          onChange={(e) => onValue(e.target.checked)}
        />
      );
    case 'choice':
      return (
        <Choice
          className="field"
          aria-label={p.label}
          value={value as string}
          onChange={(v) => onValue(v)}
        >
          {p.options.map((o) => (
            <option key={o.id} value={o.id}>
              {o.label}
            </option>
          ))}
        </Choice>
      );
    case 'point':
      return (
        <PointControl label={p.label} value={value as Point} onChange={onValue} onEnd={onEnd} />
      );
    case 'line':
      return <LineControl label={p.label} value={value as Line} onChange={onValue} onEnd={onEnd} />;
    case 'ellipse':
      return (
        <EllipseControl label={p.label} value={value as Ellipse} onChange={onValue} onEnd={onEnd} />
      );
    case 'path':
      return <PathControl label={p.label} value={value as Path} onChange={onValue} onEnd={onEnd} />;
    case 'colours':
      return (
        <ColoursControl
          label={p.label}
          value={value as readonly ColourPlace[]}
          onChange={onValue}
          onEnd={onEnd}
        />
      );
    case 'text':
      return <TextControl label={p.label} value={value as string} onChange={onValue} />;
    case 'cube':
      return <CubeControl label={p.label} value={value as LutValue | null} onChange={onValue} />;
    case 'curve':
      return (
        <CurveControl
          label={p.label}
          points={value as CurvePoints}
          onChange={onValue}
          onEnd={onEnd}
        />
      );
  }
}
