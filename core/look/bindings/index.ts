/**
 * The ways to set a parameter, one file each. A new one is a file here, its line below, and its
 * type in `Setting`.
 */
import type { Setting } from '../document';
import { centre } from './centre';
import { clipColour } from './clip-colour';
import { constant } from './constant';
import type { BindingKind } from './declare';
import { dial } from './dial';
import { link } from './link';
import { pin } from './pin';

export { type Named, object, type Schema } from './declare';
export { figure } from './dial';

/** All kinds, in the order of the schema. */
export const BINDINGS: readonly BindingKind[] = [constant, dial, pin, link, centre, clipColour];

/** The kind of a setting; undefined if it is no setting. */
export const bindingOf = (s: unknown): BindingKind | undefined =>
  typeof s === 'object' && s !== null ? BINDINGS.find((b) => b.id in s) : undefined;

/** Key of the dial that a setting names. */
export const dialNamed = (s: Setting): string | undefined => bindingOf(s)?.dial?.(s);
/** Key of the pin that a setting names. */
export const pinNamed = (s: Setting): string | undefined => bindingOf(s)?.pin?.(s);
