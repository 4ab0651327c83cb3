import { Choice } from './Choice';

interface ChoicesProps<T extends string> {
  readonly label: string;
  readonly options: readonly T[];
  readonly value: T;
  readonly onValue: (v: T) => void;
}
/** A labelled choice of a few options. */
export const Choices = <T extends string>({ label, options, value, onValue }: ChoicesProps<T>) => (
  <label className="flex items-center gap-2">
    <span className="quiet">{label}</span>
    <Choice className="field" value={value} onChange={(v) => onValue(v as T)}>
      {options.map((o) => (
        <option key={o} value={o}>
          {o}
        </option>
      ))}
    </Choice>
  </label>
);
