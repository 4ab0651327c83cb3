/**
 * What a kind of binding declares. Validation, schema, resolution and pruning all follow from it.
 */
import type { Parameter, ParameterValue, Point } from '../../parameters';
import type { Evaluation } from '../at-frame';
import type { Dial, LookDocument, PinAsk, Setting } from '../document';
import type { Fault } from '../fault';

/** A piece of JSON Schema. */
export type Schema = Readonly<Record<string, unknown>>;

/** A look with the things its settings may name, by key. */
export interface Named {
  readonly look: LookDocument;
  readonly dials: ReadonlyMap<string, Dial>;
  readonly pins: ReadonlyMap<string, PinAsk>;
}

/** What resolving a binding needs. */
export interface Resolving {
  readonly at: Evaluation;
  readonly valueOf: (s: Setting) => ParameterValue;
  /** Centre of a matte by its path, in shares of the frame. */
  readonly middleOf: (path: string) => Point;
}

/** The settings that have a property. */
export type Having<K extends string> = Extract<Setting, { readonly [P in K]: unknown }>;

/** A kind of binding. */
export interface BindingKind<S extends Setting = Setting> {
  /** The property that settings of this kind have and no others. */
  readonly id: string;
  /**
   * Schemas of this binding on a parameter, whose own value has the schema `value`; empty if the
   * parameter cannot have it.
   */
  readonly schemas: (p: Parameter, value: Schema) => readonly Schema[];
  /** Faults of a setting on a parameter, at a path. */
  readonly faults: (s: S, p: Parameter, path: string, named: Named) => Fault[];
  /** Its value at a frame. */
  readonly resolve: (s: S, look: LookDocument, how: Resolving) => ParameterValue;
  /**
   * A replacement for a look that may lack what it names: a constant, or undefined for the default.
   */
  readonly pruned: (s: S, look: LookDocument) => Setting | undefined;
  /** A short description for people; absent for constants. */
  readonly words?: (s: S, look: LookDocument) => string;
  /** Key of the dial it names. */
  readonly dial?: (s: S) => string;
  /** Key of the pin it names. */
  readonly pin?: (s: S) => string;
  /**
   * Whether it names another part of its own look. A part taken out of the look gets a constant
   * instead.
   */
  readonly isWithinLook?: boolean;
}

/** A schema of an object with these properties and no others. */
export const object = (
  properties: Readonly<Record<string, Schema>>,
  required = Object.keys(properties),
  more: Schema = {},
): Schema => ({
  type: 'object',
  properties,
  required,
  additionalProperties: false,
  ...more,
});

/** Declares a kind of binding; types its settings by its id. */
export const binding = <K extends string>(
  kind: BindingKind<Having<K>> & { readonly id: K },
): BindingKind => kind as unknown as BindingKind;
