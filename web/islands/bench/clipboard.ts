/** Copied layers and steps, kept in the browser so that they can be pasted into other looks. */
import type { Layer, StepUse } from '../../../core';

export type Copied = { readonly kind: 'layer'; readonly layer: Layer } | { readonly kind: 'step'; readonly step: StepUse };
const KEY = 'wabisabi-copied';

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
