import { hold, type Named, type ParameterBase, type ParameterKind } from './kind';

/** A switch. */
export interface SwitchParameter extends ParameterBase {
  readonly kind: 'switch';
  readonly default: boolean;
}

/** Switch parameters. */
export const switchKind: ParameterKind<SwitchParameter, boolean> = {
  unsuited: (v) => (typeof v === 'boolean' ? undefined : 'must be true or false'),
  schema: () => ({ type: 'boolean' }),
  parse: (text) =>
    text === 'on' || text === 'true' ? true : text === 'off' || text === 'false' ? false : text,
  mix: hold,
  any: (_, random) => random() < 0.5,
};

/** A switch parameter. */
export const flag = <const Id extends string>(
  id: Id,
  label: string,
  def: boolean,
  more: Partial<Omit<SwitchParameter, 'id' | 'kind'>> = {},
): SwitchParameter & Named<Id> => ({
  kind: 'switch',
  id,
  label,
  default: def,
  ...more,
});
