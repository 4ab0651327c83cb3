/** Options shared by a clip's retime and a look's. */
import {
  type Between,
  BETWEEN,
  BETWEEN_WORDS,
  RETIME_WAYS,
  type RetimeWay,
} from '../../../core/time';
import { Choice } from '../../components/Choice';

const WAY_WORDS: Record<RetimeWay, string> = { smooth: 'then smoothly', 'at-once': 'then at once' };

interface Props<T extends string> {
  readonly label: string;
  readonly value: T;
  readonly onChange: (v: T) => void;
}
const chooser = <T extends string>(ids: readonly T[], words: Readonly<Record<T, string>>) =>
  function Chooser({ label, value, onChange }: Props<T>) {
    return (
      <Choice
        className="field min-w-0 flex-1"
        aria-label={label}
        value={value}
        onChange={(v) => onChange(v as T)}
      >
        {ids.map((id) => (
          <option key={id} value={id}>
            {words[id]}
          </option>
        ))}
      </Choice>
    );
  };

/** Chooses how speed changes to the next place. */
export const WayChoice = chooser(RETIME_WAYS, WAY_WORDS);
/** Chooses how missing frames are made. */
export const BetweenChoice = chooser<Between>(BETWEEN, BETWEEN_WORDS);
