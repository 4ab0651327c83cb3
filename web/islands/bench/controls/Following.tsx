import {
  allLayers,
  centresFrom,
  followed,
  type Link,
  type LookDocument,
  matteOf,
  matteWithCentre,
  type Parameter,
  type Setting,
  stepOf,
} from '../../../../core';
import { useBench } from '../context';
import { NumberField } from '../../../components/NumberField';

/** Parameters of a kind with their paths and names. */
export const alike = (
  look: LookDocument,
  kind: Parameter['kind'],
): { readonly path: string; readonly label: string }[] =>
  allLayers(look).flatMap((l) =>
    l.steps.flatMap((s) => {
      const step = stepOf(s.step)!;
      return step.parameters
        .filter((p) => p.kind === kind)
        .map((p) => ({
          path: `${l.key}/${s.key}/${p.id}`,
          label: `${l.name}: ${step.label.toLowerCase()} ${p.label.toLowerCase()}`,
        }));
    }),
  );

/**
 * Mattes whose centre can be used: drawn ones, except `own` and those that depend on it. With
 * `measured` also any other matte that is planned before: of `own`'s layer and those below (without
 * `own`, all).
 */
export function centres(
  look: LookDocument,
  own?: string,
  measured = false,
): { readonly path: string; readonly label: string }[] {
  const layers = allLayers(look),
    ownLayer = layers.findIndex((l) => l.key === own?.split('/')[0]);
  const all = layers.flatMap((l, i) => [
    ...(l.mattes ?? []).map((m) => ({
      layer: i,
      path: `${l.key}/${m.key}`,
      label: `${l.name}: ${matteOf(m.matte)!.label.toLowerCase()}`,
    })),
    ...l.steps.flatMap((s) =>
      (s.mattes ?? []).map((m) => ({
        layer: i,
        path: `${l.key}/${s.key}/${m.key}`,
        label: `${l.name}, ${stepOf(s.step)!.label.toLowerCase()}: ${matteOf(m.matte)!.label.toLowerCase()}`,
      })),
    ),
  ]);
  const known = (layer: number) => measured && (own === undefined || layer <= ownLayer);
  return all.filter(
    ({ path, layer }) =>
      (known(layer) || matteWithCentre(look, path)) &&
      (own === undefined || !centresFrom(look, path).includes(own)),
  );
}

/** Whether a parameter is linked to another, directly or not. */
export function leadsTo(look: LookDocument, from: string, to: string | undefined): boolean {
  for (
    let at = followed(look, from), steps = 0;
    at && 'follows' in at.setting && steps < 64;
    at = followed(look, at.setting.follows), steps++
  )
    if (at.setting.follows === to) return true;
  return false;
}

interface Props {
  readonly setting: Link;
  readonly kind: Parameter['kind'];
  readonly put: (s: Setting, gesture?: string) => void;
  readonly end: () => void;
}

/** The link of a parameter, and its offset. */
export function Following({ setting, kind, put, end }: Props) {
  const label =
    useBench((s) => alike(s.still, kind).find((o) => o.path === setting.follows)?.label) ??
    setting.follows;
  const fields =
    kind === 'number'
      ? ([['offset', 'plus', '', 1000]] as const)
      : ([
          ['shade', 'shade', '%', 100],
          ['hue', 'hue', '°', 360],
        ] as const);
  return (
    <span className="min-w-0">
      <span className="quiet block truncate" title={`follows ${label}`}>
        {label}
      </span>
      <span className="flex gap-1">
        {fields.map(([id, words, unit, most]) => (
          <NumberField
            key={id}
            className="w-full !text-center"
            label={`${words} beside ${label}`}
            help={words}
            value={setting[id] ?? 0}
            min={-most}
            max={most}
            unit={unit}
            reset={0}
            onChange={(v, g) => put({ ...setting, [id]: v }, g)}
            onEnd={end}
          />
        ))}
      </span>
    </span>
  );
}
