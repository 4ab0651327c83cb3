import { hold, type ParameterBase, type ParameterKind } from './kind';

/** One of several options. */
export interface ChoiceParameter extends ParameterBase {
  readonly kind: 'choice';
  readonly options: readonly { readonly id: string; readonly label: string }[];
  readonly default: string;
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

/** A choice parameter. */
export const choice = (
  id: string,
  label: string,
  options: Readonly<Record<string, string>>,
  def: string,
  more: Partial<ChoiceParameter> = {},
): ChoiceParameter => ({
  kind: 'choice',
  id,
  label,
  options: Object.entries(options).map(([key, words]) => ({ id: key, label: words })),
  default: def,
  ...more,
});
