import { ONCE, type PinSetting } from '../../../../core';
import { Choice } from '../../../components/Choice';

const WORDS: Record<(typeof ONCE)[number], string> = {
  start: 'once, at the clip’s start',
  middle: 'once, at its middle',
  end: 'once, at its end',
};
interface Props {
  readonly setting: PinSetting;
  /** Of the parameter. */
  readonly label: string;
  /** Name of the pin. */
  readonly pin: string | undefined;
  readonly onSetting: (s: PinSetting) => void;
}

/** A place that each clip sets: on every frame, or taken once where a followed one would tremble. */
export function ByPin({ setting, label, pin, onSetting }: Props) {
  return (
    <span className="flex flex-col min-w-0">
      <span className="quiet">where each clip sets {pin}</span>
      <Choice
        className="field min-w-0"
        aria-label={`When the place of ${label} is taken`}
        value={setting.once ?? ''}
        onChange={(v) => {
          const { once: _, ...plain } = setting;
          const once = ONCE.find((o) => o === v);
          onSetting(once ? { ...plain, once } : plain);
        }}
      >
        <option value="">on every frame</option>
        {ONCE.map((o) => (
          <option key={o} value={o}>
            {WORDS[o]}
          </option>
        ))}
      </Choice>
    </span>
  );
}
