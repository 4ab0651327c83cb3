interface ChoicesProps<T extends string> {
  readonly label: string;
  readonly options: readonly T[];
  readonly value: T;
  readonly onValue: (v: T) => void;
}
/** One of a few, by name. */
export const Choices = <T extends string>({ label, options, value, onValue }: ChoicesProps<T>) => (
  <label className="flex items-center gap-2">
    <span className="quiet">{label}</span>
    <select className="field" value={value} onChange={(e) => onValue(e.target.value as T)}>
      {options.map((o) => (
        <option key={o} value={o}>
          {o}
        </option>
      ))}
    </select>
  </label>
);
