/**
 * What a kind of binding declares: from it come validation, schema, resolving, and what becomes of
 * it elsewhere.
 */
import type { Parameter, ParameterValue, Point } from '../../parameters';
import type { Evaluation } from '../at-frame';
import type { Dial, LookDocument, PinAsk, Setting } from '../document';
import type { Fault } from '../fault';

/** A piece of JSON Schema. */
export type Schema = Readonly<Record<string, unknown>>;

/** A look and what its settings may name, by key. */
export interface Named {
  readonly look: LookDocument;
  readonly dials: ReadonlyMap<string, Dial>;
  readonly pins: ReadonlyMap<string, PinAsk>;
}

/** How a binding asks for what it leads to. */
export interface Resolving {
  readonly at: Evaluation;
  readonly valueOf: (s: Setting) => ParameterValue;
  /** The middle of a matte by its path, in shares of the frame. */
  readonly middleOf: (path: string) => Point;
}

/** The settings that have a property. */
export type Having<K extends string> = Extract<Setting, { readonly [P in K]: unknown }>;

export interface BindingKind<S extends Setting = Setting> {
  /** The property that a setting of this kind has and no other. */
  readonly id: string;
  /**
   * The shapes it may have on a parameter, whose own value has the schema `value`; none where it
   * cannot stand.
   */
  readonly schemas: (p: Parameter, value: Schema) => readonly Schema[];
  /** What is wrong with it on a parameter, at a path. */
  readonly faults: (s: S, p: Parameter, path: string, named: Named) => Fault[];
  /** The value it comes to at a frame. */
  readonly resolve: (s: S, look: LookDocument, how: Resolving) => ParameterValue;
  /**
   * As it can stand in a look that may lack what it names: a constant instead, or undefined for the
   * default.
   */
  readonly detached: (s: S, look: LookDocument) => Setting | undefined;
  /** In words a person would say; none of a constant. */
  readonly words?: (s: S, look: LookDocument) => string;
  /** The dial it names. */
  readonly dial?: (s: S) => string;
  /** The pin it names. */
  readonly pin?: (s: S) => string;
  /**
   * Whether it names another part of its own look: what is taken out of the look becomes a
   * constant.
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

/** Names a binding to its place in the list, whose members differ in the settings they take. */
export const binding = <K extends string>(
  kind: BindingKind<Having<K>> & { readonly id: K },
): BindingKind => kind as unknown as BindingKind;
