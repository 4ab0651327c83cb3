/**
 * Copied layers, steps and keys, kept in the browser so that they can be pasted into other looks.
 */
import { type edit, type Layer, LOOK_SCHEMA, type StepUse } from '../../../core';

export type Copied =
  | { readonly kind: 'layer'; readonly layer: Layer }
  | { readonly kind: 'step'; readonly step: StepUse }
  | { readonly kind: 'keys'; readonly keys: readonly edit.CopiedKey[] };
/** Of this schema alone: what was copied before says nothing of its own. */
const KEY = `wabisabi-copied-${LOOK_SCHEMA}`;

export const copy = (c: Copied): void => {
  try {
    localStorage.setItem(KEY, JSON.stringify(c));
  } catch {
    /* nothing is copied */
  }
};
export function copied(): Copied | null {
  try {
    return JSON.parse(localStorage.getItem(KEY) ?? 'null') as Copied | null;
  } catch {
    return null;
  }
}
