/**
 * The clipboard for layers, steps and keys, stored in the browser so that they can be pasted into
 * other looks.
 */
import { type edit, type Layer, LOOK_SCHEMA, type StepUse } from '../../../core';

/** What can be copied. */
export type Copied =
  | { readonly kind: 'layer'; readonly layer: Layer }
  | { readonly kind: 'step'; readonly step: StepUse }
  | { readonly kind: 'keys'; readonly keys: readonly edit.CopiedKey[] };
/** One store per schema, because copies carry no schema number. */
const KEY = `wabisabi-copied-${LOOK_SCHEMA}`;

/** Copies something; without storage, nothing. */
export const copy = (c: Copied): void => {
  try {
    localStorage.setItem(KEY, JSON.stringify(c));
  } catch {
    /* without storage nothing is copied */
  }
};
/** What was copied last; null if nothing. */
export function copied(): Copied | null {
  try {
    return JSON.parse(localStorage.getItem(KEY) ?? 'null') as Copied | null;
  } catch {
    return null;
  }
}
