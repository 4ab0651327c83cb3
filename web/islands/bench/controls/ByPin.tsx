import { ONCE, type PinSetting } from '../../../../core';
import { Choice } from '../../../components/Choice';
import { NumberField } from '../../../components/NumberField';

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
  /** Whether it takes its size from an oval. */
  readonly sized?: boolean;
  readonly onSetting: (s: PinSetting, gesture?: string) => void;
  readonly onEnd: () => void;
}

/** A place that each clip sets: on every frame, or taken once where a followed one would tremble. */
export function ByPin({ setting, label, pin, sized, onSetting, onEnd }: Props) {
  return (
    <span className="flex flex-col min-w-0">
      <span className="quiet">
        {setting.of ? `the ${setting.of} of ${pin}` : `where each clip sets ${pin}`}
      </span>
      {sized && (
        <span className="flex items-center gap-1">
          <NumberField
            label={`How much of the size of ${pin} ${label} is`}
            value={setting.times ?? 100}
            min={-1000}
            max={1000}
            unit="%"
            onChange={(times, gesture) => onSetting({ ...setting, times }, gesture)}
            onEnd={onEnd}
          />
          <span className="quiet">of it</span>
        </span>
      )}
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
