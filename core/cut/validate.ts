/** Reads a cut from anything: a valid document, or its faults with their paths. */
import { plainToInstance } from 'class-transformer';
import { validateSync } from 'class-validator';
import { type Fault, faultsOf } from '../look';
import { allPlaces, CutDocument } from './document';

/** A valid cut, or its faults. */
export type ReadCut = { readonly cut: CutDocument } | { readonly faults: readonly Fault[] };

const twice = (keys: readonly string[]): string[] => [
  ...new Set(keys.filter((k, i) => keys.indexOf(k) !== i)),
];

/** Reads a cut. */
export function readCut(json: unknown): ReadCut {
  if (typeof json !== 'object' || json === null || Array.isArray(json))
    return { faults: [{ path: '', message: 'a cut is an object with rows, sounds and markers' }] };
  const cut = plainToInstance(CutDocument, json);
  const faults = faultsOf(
    validateSync(cut, { whitelist: true, forbidNonWhitelisted: true, forbidUnknownValues: true }),
  );
  if (faults.length > 0) return { faults };
  const named = (path: string, keys: readonly string[]): Fault[] =>
    twice(keys).map((key) => ({ path, message: `"${key}" is there twice; keys are single` }));
  const own: Fault[] = [
    ...named(
      'rows',
      cut.rows.map((r) => r.key),
    ),
    ...named(
      'rows',
      allPlaces(cut).map((p) => p.key),
    ),
    ...named(
      'sounds',
      cut.sounds.map((s) => s.key),
    ),
    ...named(
      'markers',
      cut.markers.map((m) => m.key),
    ),
  ];
  if (cut.song !== undefined && !cut.sounds.some((s) => s.key === cut.song))
    own.push({ path: 'song', message: `there is no sound "${cut.song}" in the cut` });
  return own.length > 0 ? { faults: own } : { cut };
}
