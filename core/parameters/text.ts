import { hold, type ParameterBase, type ParameterKind } from './kind';

/** A text. */
export interface TextParameter extends ParameterBase {
  readonly kind: 'text';
  readonly default: string;
}

/** Text parameters. */
export const textKind: ParameterKind<TextParameter, string> = {
  unsuited: (v) =>
    typeof v === 'string' && v.length <= 400 ? undefined : 'must be text of at most 400 letters',
  schema: () => ({ type: 'string', maxLength: 400 }),
  parse: (text) => text,
  mix: hold,
  any: () => 'Static 17',
};
