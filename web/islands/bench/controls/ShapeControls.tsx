/**
 * Number fields for shapes that are also moved on the hero: lines, outlines, paths, places of
 * colour.
 */
import { Plus, X } from 'lucide-react';
import { useState } from 'react';
import type { Colour, ColourPlace, Ellipse, Line, Path, PathNode } from '../../../../core';
import { smoothed, withNode } from '../paths';
import { useBench, useStoreItself } from '../context';
import { ColourControl } from '../../../components/ColourControl';
import { NumberField } from '../../../components/NumberField';

interface Props<T> {
  readonly label: string;
  readonly value: T;
  readonly onChange: (v: T, gesture?: string) => void;
  readonly onEnd: () => void;
}

interface Figure {
  readonly label: string;
  /** Factor from the stored number to the displayed one. */
  readonly scale: number;
  readonly unit: string;
  readonly min: number;
  readonly max: number;
  readonly soft: readonly [number, number];
}
const share = (label: string): Figure => ({
  label,
  scale: 100,
  unit: '%',
  min: -400,
  max: 500,
  soft: [0, 100],
});
const lines = (label: string): Figure => ({
  label,
  scale: 1,
  unit: 'lines',
  min: 0,
  max: 1e5,
  soft: [0, 540],
});

function Figures({
  figures,
  value,
  label,
  onChange,
  onEnd,
}: Props<readonly number[]> & { readonly figures: readonly Figure[] }) {
  return (
    <span className="grid grid-cols-2 gap-x-1">
      {figures.map((f, i) => (
        <NumberField
          key={f.label}
          className="w-full !text-center"
          label={`${label} ${f.label}`}
          help={f.label}
          value={value[i]! * f.scale}
          min={f.min}
          max={f.max}
          soft={f.soft}
          unit={f.unit}
          onChange={(v, g) =>
            onChange(
              value.map((x, k) => (k === i ? v / f.scale : x)),
              g,
            )
          }
          onEnd={onEnd}
        />
      ))}
    </span>
  );
}

const LINE = [share('from across'), share('from down'), share('to across'), share('to down')];
/** Number fields of a line. */
export const LineControl = ({ value, onChange, ...rest }: Props<Line>) => (
  <Figures
    {...rest}
    figures={LINE}
    value={value}
    onChange={(v, g) => onChange(v as unknown as Line, g)}
  />
);

const ELLIPSE = [
  share('across'),
  share('down'),
  lines('half width'),
  lines('half height'),
  { ...share('turn'), scale: 1, unit: '°', min: -3600, max: 3600 },
];
/** Number fields of an ellipse or a box. */
export const EllipseControl = ({ value, onChange, ...rest }: Props<Ellipse>) => (
  <Figures
    {...rest}
    figures={ELLIPSE}
    value={value}
    onChange={(v, g) => onChange(v as unknown as Ellipse, g)}
  />
);

/**
 * A path: drawn by clicks on the hero, where its nodes are moved too; here as numbers, one node at
 * a time.
 */
export function PathControl({ label, value, onChange, onEnd }: Props<Path>) {
  const place = useBench((s) => s.place),
    waiting = useBench((s) => s.placing?.label === label);
  const store = useStoreItself();
  const [at, setAt] = useState(0);
  const node = value[Math.min(at, value.length - 1)];
  const draw = () => {
    if (waiting) return place(null);
    let drawn = value;
    // The clip must be visible while an outline is drawn, whatever the layer does.
    const { chosen, show, matteShown } = store.getState();
    if (!matteShown && chosen)
      show({
        matteShown: {
          key: chosen.step === undefined ? chosen.layer : `${chosen.layer}/${chosen.step}`,
          how: 'tint',
        },
      });
    place({
      label,
      many: true,
      take: ([x, y]) => {
        drawn = [...drawn, [round(x), round(y), 0, 0, 0, 0]];
        onChange(drawn);
        return 'enough';
      },
    });
  };
  return (
    <span className="flex flex-col gap-0.5 min-w-0">
      <span className="num quiet">{value.length} nodes</span>
      <span className="flex flex-wrap items-center -ml-2">
        <button
          className={`word ${waiting ? 'framed' : 'quiet'}`}
          aria-pressed={waiting}
          onClick={draw}
          title="Click on the hero, node after node"
        >
          {waiting ? 'done' : 'draw'}
        </button>
        <button
          className="word quiet"
          onClick={() =>
            onChange(
              value.length < 3
                ? [...value, FIRST[value.length]!]
                : withNode(value, value.length - 1),
            )
          }
          title="A node more"
        >
          + node
        </button>
        <button
          className="word quiet"
          disabled={value.length < 3}
          onClick={() => onChange(smoothed(value))}
          title="Round every corner"
        >
          smooth
        </button>
        <button className="word quiet" disabled={value.length === 0} onClick={() => onChange([])}>
          clear
        </button>
      </span>
      {node && (
        <span className="flex items-center gap-1">
          <NumberField
            className="w-10 flex-none"
            label={`${label} node`}
            help="Which node the numbers are of"
            value={Math.min(at, value.length - 1) + 1}
            min={1}
            max={value.length}
            onChange={(v) => setAt(Math.round(v) - 1)}
            onEnd={() => undefined}
          />
          <Figures
            label={`${label} node`}
            figures={[share('across'), share('down')]}
            value={node}
            onChange={(v, g) =>
              onChange(
                value.map((n, i) =>
                  n === node && i === Math.min(at, value.length - 1)
                    ? (v as unknown as PathNode)
                    : n,
                ),
                g,
              )
            }
            onEnd={onEnd}
          />
        </span>
      )}
    </span>
  );
}
/** Initial nodes of a path that is not drawn by hand. */
const FIRST: Path = [
  [0.5, 0.35, 0, 0, 0, 0],
  [0.6, 0.6, 0, 0, 0, 0],
  [0.4, 0.6, 0, 0, 0, 0],
];
const round = (v: number): number => Math.round(v * 1e5) / 1e5;

/** Places of colour, each with its colour. */
export function ColoursControl({ label, value, onChange, onEnd }: Props<readonly ColourPlace[]>) {
  const set = (i: number, next: ColourPlace, g?: string) =>
    onChange(
      value.map((p, k) => (k === i ? next : p)),
      g,
    );
  return (
    <span className="flex flex-col gap-0.5">
      {value.map((p, i) => (
        <span key={i} className="flex items-center gap-1">
          <ColourControl
            label={`${label} ${i + 1}`}
            value={p.slice(2) as unknown as Colour}
            onChange={(c, g) => set(i, [p[0], p[1], ...c], g)}
            onEnd={onEnd}
          />
          <Figures
            label={`${label} ${i + 1}`}
            figures={[share('across'), share('down')]}
            value={p}
            onChange={(v, g) => set(i, v as unknown as ColourPlace, g)}
            onEnd={onEnd}
          />
          <button
            className="quiet"
            aria-label={`Remove ${label} ${i + 1}`}
            disabled={value.length === 1}
            onClick={() => onChange(value.filter((_, k) => k !== i))}
          >
            <X size={11} aria-hidden="true" />
          </button>
        </span>
      ))}
      <button
        className="word quiet self-start"
        disabled={value.length >= 12}
        onClick={() =>
          onChange([...value, [0.5, 0.5, ...(value.at(-1)!.slice(2) as unknown as Colour)]])
        }
      >
        <Plus size={11} aria-hidden="true" /> place
      </button>
    </span>
  );
}

/** A text field. */
export function TextControl({ label, value, onChange }: Omit<Props<string>, 'onEnd'>) {
  return (
    <input
      className="field min-w-0"
      aria-label={label}
      maxLength={400}
      defaultValue={value}
      key={value}
      onBlur={(e) => {
        if (e.target.value !== value) onChange(e.target.value);
      }}
      onKeyDown={(e) => {
        if (e.key === 'Enter') e.currentTarget.blur();
      }}
    />
  );
}
