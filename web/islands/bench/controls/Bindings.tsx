import { memo, type ReactNode } from 'react';
import { type Dial, OVAL_SIZES, type Parameter, type PinSetting, setBy } from '../../../../core';
import { useStill } from '../context';
import { alike, centres, leadsTo } from './Following';
import { Choice } from '../../../components/Choice';

/** The option for the colour that contrasts with each clip. */
export const CLIP = 'clip';
const suits = (d: Dial, p: Parameter): boolean => d.kind === p.kind && d.key !== 'strength';
/** A dial's key and label. */
export type Named = Pick<Dial, 'key' | 'label'>;

interface BindingProps {
  readonly label: string;
  readonly title: string;
  /** The chosen option; undefined for a constant. */
  readonly value: string | undefined;
  readonly onChoose: (to: string) => void;
  /** Options besides a constant. */
  readonly children: ReactNode;
}

/** A ring, filled if the value is bound; a click opens the options. */
const Binding = ({ label, title, value, onChoose, children }: BindingProps) => (
  <Choice
    aria-label={label}
    title={title}
    className="w-[18px] h-[18px] grid place-items-center rounded-sm hover:bg-base-300"
    value={value ?? ''}
    onChange={onChoose}
    face={
      <span
        aria-hidden="true"
        className={`w-[7px] h-[7px] rounded-full border ${value === undefined ? 'border-current opacity-50' : 'bg-base-content border-base-content'}`}
      />
    }
  >
    <option value="">a constant</option>
    {children}
  </Choice>
);
const options = (of: readonly { readonly id: string; readonly label: string }[]) =>
  of.map(({ id, label }) => (
    <option key={id} value={id}>
      {label}
    </option>
  ));

interface PlacedProps {
  readonly parameter: Parameter;
  readonly own: string | undefined;
  readonly measured: boolean;
  readonly pin: string | undefined;
  readonly centre: string | undefined;
  /** Called with a pin's key, a matte's path, or nothing for a constant. */
  readonly onChoose: (to: string) => void;
}

/** Chooses what a place is bound to: a constant, a pin, or the centre of a matte. */
export const PlacedBy = memo(function PlacedBy({
  parameter: p,
  own,
  measured,
  pin,
  centre,
  onChoose,
}: PlacedProps) {
  const hasMiddle = p.kind === 'point' || p.kind === 'ellipse';
  const pins = useStill((still) =>
      (still.pins ?? []).flatMap((k) =>
        setBy(p.kind).includes(k.kind) ? [{ id: k.key, label: k.label }] : [],
      ),
    ),
    mattes = useStill((still) =>
      !hasMiddle ? [] : centres(still, own, measured).map((c) => ({ id: c.path, label: c.label })),
    );
  const title =
    pin !== undefined
      ? 'set by a pin'
      : centre !== undefined
        ? 'follows a matte'
        : hasMiddle
          ? 'set by a pin of each clip, or the middle of a matte'
          : 'set by a pin of each clip';
  return (
    <Binding label={`${p.label} is set by`} title={title} value={pin ?? centre} onChoose={onChoose}>
      {options(pins)}
      {hasMiddle && <optgroup label="the middle of a matte">{options(mattes)}</optgroup>}
    </Binding>
  );
});

/** The option for a size of an oval that a pin asks for. */
export const sizeId = (pin: string, of: NonNullable<PinSetting['of']>): string => `${pin}:${of}`;
/** What such an option says; undefined if it is another one. */
export function sizeIn(
  id: string,
): { readonly pin: string; readonly of: (typeof OVAL_SIZES)[number] } | undefined {
  const [pin, size] = id.split(':'),
    of = OVAL_SIZES.find((o) => o === size);
  return pin && of ? { pin, of } : undefined;
}

interface DrivenProps {
  readonly parameter: Parameter;
  readonly own: string | undefined;
  readonly dial: Named | undefined;
  /** Path of the linked parameter, `CLIP`, or the size of an oval (`sizeId`). */
  readonly bound: string | undefined;
  /**
   * Called with a dial's key, `+` for a new dial, the path of a parameter, `CLIP`, the size of an
   * oval, or nothing for a constant.
   */
  readonly onChoose: (to: string) => void;
}

/** Chooses what a value is bound to: a constant, a dial, the clip, or another parameter. */
export const DrivenBy = memo(function DrivenBy({
  parameter: p,
  own,
  dial,
  bound,
  onChoose,
}: DrivenProps) {
  const dials = useStill((still) =>
      still.dials.filter((d) => suits(d, p)).map((d) => ({ id: d.key, label: d.label })),
    ),
    others = useStill((still) =>
      p.kind === 'switch'
        ? []
        : alike(still, p.kind).flatMap((o) =>
            o.path === own || leadsTo(still, o.path, own) ? [] : [{ id: o.path, label: o.label }],
          ),
    );
  const sizes = useStill((still) =>
    (still.pins ?? []).flatMap((k) =>
      setBy(p.kind).includes(k.kind) && p.kind === 'number'
        ? OVAL_SIZES.map((of) => ({ id: sizeId(k.key, of), label: `${of} of ${k.label}` }))
        : [],
    ),
  );
  const title = dial
    ? `driven by the dial ${dial.label}`
    : bound
      ? 'follows'
      : 'drive by a dial, or follow another';
  return (
    <Binding
      label={`${p.label} is driven by`}
      title={title}
      value={dial?.key ?? bound}
      onChoose={onChoose}
    >
      {options(dials)}
      <option value="+">a new dial</option>
      {p.kind === 'colour' && <option value={CLIP}>what stands out from each clip</option>}
      {sizes.length > 0 && <optgroup label="the size of an oval">{options(sizes)}</optgroup>}
      {p.kind !== 'switch' && <optgroup label="follow">{options(others)}</optgroup>}
    </Binding>
  );
});
