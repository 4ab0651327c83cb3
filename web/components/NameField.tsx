interface Props {
  /** What is named, for those who do not see it. */
  readonly label: string;
  readonly name: string;
  readonly most: number;
  readonly onName: (name: string) => void;
  readonly className?: string;
}

/** A name that is edited in place: Enter or leaving takes it; an empty one is put back. */
export const NameField = ({ label, name, most, onName, className = '' }: Props) => (
  <input
    className={`field ${className}`}
    aria-label={label}
    maxLength={most}
    defaultValue={name}
    key={name}
    onBlur={(e) => {
      const to = e.target.value.trim();
      if (to && to !== name) onName(to);
      else e.target.value = name;
    }}
    onKeyDown={(e) => {
      if (e.key === 'Enter') e.currentTarget.blur();
    }}
  />
);
