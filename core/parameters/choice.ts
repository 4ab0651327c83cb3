import { hold, type Named, type ParameterBase, type ParameterKind } from './kind';

/** One of several options. */
export interface ChoiceParameter<O extends string = string> extends ParameterBase {
  readonly kind: 'choice';
  readonly options: readonly { readonly id: O; readonly label: string }[];
  readonly default: O;
}

/** Choice parameters. */
export const choiceKind: ParameterKind<ChoiceParameter, string> = {
  unsuited: (v, p) =>
    p.options.some((o) => o.id === v)
      ? undefined
      : `must be one of ${p.options.map((o) => o.id).join(', ')}`,
  schema: (p) => ({ enum: p.options.map((o) => o.id) }),
  parse: (text) => text,
  mix: hold,
  any: (p, random) => p.options[Math.floor(random() * p.options.length)]!.id,
};

/** The options of a choice from a family's members by id. */
export const optionsFrom = <K extends string, V>(
  of: Readonly<Record<K, V>>,
  words: (v: V) => string,
): Record<K, string> =>
  Object.fromEntries(Object.entries<V>(of).map(([id, member]) => [id, words(member)])) as Record<
    K,
    string
  >;

/** A choice parameter. */
export const choice = <const Id extends string, O extends string>(
  id: Id,
  label: string,
  options: Readonly<Record<O, string>>,
  def: NoInfer<O>,
  more: Partial<Pick<ParameterBase, 'help'>> = {},
): ChoiceParameter<O> & Named<Id> => ({
  kind: 'choice',
  id,
  label,
  options: Object.entries<string>(options).map(([key, words]) => ({ id: key as O, label: words })),
  default: def,
  ...more,
});
