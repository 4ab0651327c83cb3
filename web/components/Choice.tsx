import { Listbox, ListboxButton, ListboxOption, ListboxOptions } from '@headlessui/react';
import { Check, ChevronDown } from 'lucide-react';
import { Children, Fragment, isValidElement, type ReactElement, type ReactNode } from 'react';

interface OptionProps {
  readonly value?: string | number;
  readonly disabled?: boolean;
  readonly title?: string;
  readonly children?: ReactNode;
}
interface Option {
  readonly id: string;
  readonly words: string;
  readonly off: boolean;
  readonly help: string | undefined;
}
interface Group {
  readonly label: string | undefined;
  readonly options: readonly Option[];
}

const textOf = (n: ReactNode): string =>
  Children.toArray(n)
    .map((c) =>
      typeof c === 'string' || typeof c === 'number'
        ? String(c)
        : isValidElement<OptionProps>(c)
          ? textOf(c.props.children)
          : '',
    )
    .join('');

/** `<option>` and `<optgroup>` elements as data, also inside fragments. */
function groupsIn(children: ReactNode): Group[] {
  const groups: { label: string | undefined; options: Option[] }[] = [];
  const own = (label?: string) => {
    const last = groups.at(-1);
    if (last && last.label === label) return last;
    const made = { label, options: [] as Option[] };
    groups.push(made);
    return made;
  };
  const visit = (n: ReactNode, label?: string): void =>
    Children.forEach(n, (c) => {
      if (!isValidElement(c)) return;
      const e = c as ReactElement<OptionProps & { label?: string }>;
      if (e.type === Fragment) visit(e.props.children, label);
      else if (e.type === 'optgroup') visit(e.props.children, e.props.label);
      else {
        const words = textOf(e.props.children).trim();
        own(label).options.push({
          id: String(e.props.value ?? words),
          words,
          off: e.props.disabled ?? false,
          help: e.props.title,
        });
      }
    });
  visit(children);
  return groups;
}

interface ChoiceProps {
  readonly 'aria-label'?: string;
  readonly className?: string;
  readonly title?: string;
  readonly disabled?: boolean;
  readonly value?: string | undefined;
  readonly onChange?: (id: string) => void;
  /** In a form: the field's name and initial value. */
  readonly name?: string;
  readonly defaultValue?: string;
  /** Shown on the button instead of the chosen option. */
  readonly face?: ReactNode;
  /**
   * `<option>` elements, grouped by `<optgroup>`s. A disabled option without a value is the prompt.
   */
  readonly children: ReactNode;
}

/** A drop-down list, operated by mouse, arrow keys or typing the first letters. */
export function Choice({
  className = 'field',
  title,
  disabled = false,
  onChange,
  face,
  children,
  'aria-label': label,
  ...given
}: ChoiceProps) {
  const groups = groupsIn(children);
  const all = groups.flatMap((g) => g.options);
  return (
    <Listbox
      disabled={disabled}
      {...given}
      {...(onChange && { onChange: (id: string) => onChange(id) })}
    >
      {({ value }: { value: string | undefined }) => (
        <>
          <ListboxButton
            role="combobox"
            aria-label={label}
            title={title}
            data-value={value}
            className={face ? className : `${className} inline-flex items-center gap-1 text-left`}
          >
            {face ?? (
              <>
                <span className="truncate flex-1">
                  {all.find((o) => o.id === String(value))?.words ?? ''}
                </span>
                <ChevronDown size={12} className="quiet flex-none" aria-hidden="true" />
              </>
            )}
          </ListboxButton>
          <ListboxOptions
            anchor={{ to: 'bottom start', gap: 3, padding: 8 }}
            className="opened scrolls"
          >
            {groups.map((g, i) => (
              <div key={i} role="group" aria-label={g.label}>
                {g.label && <div className="quiet px-2.5 pt-1.5 pb-0.5">{g.label}</div>}
                {g.options
                  .filter((o) => !(o.off && o.id === ''))
                  .map((o) => (
                    <ListboxOption
                      key={o.id}
                      value={o.id}
                      disabled={o.off}
                      data-value={o.id}
                      title={o.help}
                      className="opened-option"
                    >
                      <Check
                        size={12}
                        className={`flex-none ${o.id === String(value) ? '' : 'invisible'}`}
                        aria-hidden="true"
                      />
                      <span className="truncate">{o.words}</span>
                    </ListboxOption>
                  ))}
              </div>
            ))}
          </ListboxOptions>
        </>
      )}
    </Listbox>
  );
}
