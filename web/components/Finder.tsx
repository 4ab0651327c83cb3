import {
  Combobox,
  ComboboxInput,
  ComboboxOption,
  ComboboxOptions,
  Popover,
  PopoverButton,
  PopoverPanel,
} from '@headlessui/react';
import { type ComponentType, type ReactNode, useState } from 'react';

/** An item of the finder. */
export interface Found {
  readonly id: string;
  readonly group: string;
  readonly label: string;
  /** A one-line description. */
  readonly help: string;
  /** False for an item without a picture in a list that has some. */
  readonly pictured?: boolean;
}

/** Items that contain every typed word; those whose name begins with one come first. */
export function matching(all: readonly Found[], query: string): Found[] {
  const words = query.toLowerCase().split(/\s+/).filter(Boolean);
  const text = (f: Found) => `${f.label} ${f.group} ${f.help}`.toLowerCase();
  const named = (f: Found) => words.every((w) => f.label.toLowerCase().includes(w));
  const hits = all.filter((f) => words.every((w) => text(f).includes(w)));
  return words.length === 0 ? hits : [...hits.filter(named), ...hits.filter((f) => !named(f))];
}

interface FinderProps {
  readonly label: string;
  readonly className?: string;
  readonly disabled?: boolean;
  readonly all: readonly Found[];
  /** Renders a picture for each item; mounted when the list is opened. */
  readonly pictures?: ComponentType<{
    readonly of: readonly Found[];
    readonly children: (pictures: ReadonlyMap<string, string>) => ReactNode;
  }>;
  readonly onChoose: (id: string) => void;
  /** Content of the button. */
  readonly children: ReactNode;
}

/** A searchable list with a description of each item. */
export const Finder = ({
  label,
  className = 'word framed',
  disabled = false,
  all,
  pictures,
  onChoose,
  children,
}: FinderProps) => (
  <Popover>
    <PopoverButton aria-label={label} className={className} disabled={disabled}>
      {children}
    </PopoverButton>
    <PopoverPanel
      anchor={{ to: 'bottom start', gap: 3, padding: 8 }}
      className="opened w-[480px] flex flex-col"
      focus
    >
      {({ close }) => (
        <Search
          all={all}
          pictures={pictures}
          label={label}
          onChoose={(id) => {
            close();
            onChoose(id);
          }}
        />
      )}
    </PopoverPanel>
  </Popover>
);

const NO_PICTURES: ReadonlyMap<string, string> = new Map();

function Search({
  all,
  label,
  pictures: Pictures,
  onChoose,
}: Pick<FinderProps, 'all' | 'label' | 'pictures' | 'onChoose'>) {
  const [query, setQuery] = useState('');
  const found = matching(all, query);
  const groups = query.trim() === '' ? [...new Set(found.map((f) => f.group))] : [''];
  const list = (urls: ReadonlyMap<string, string>): ReactNode =>
    groups.map((g) => (
      <div key={g} role="group" aria-label={g || undefined}>
        {g && <div className="quiet px-2.5 pt-1.5 pb-0.5">{g}</div>}
        {found
          .filter((f) => g === '' || f.group === g)
          .map((f) => (
            <ComboboxOption
              key={f.id}
              value={f.id}
              data-value={f.id}
              className="opened-option !items-center"
            >
              {Pictures && f.pictured !== false && (
                <span className="w-[72px] h-[40px] flex-none bg-base-300 self-center">
                  {urls.get(f.id) && (
                    <img src={urls.get(f.id)} alt="" className="w-full h-full object-contain" />
                  )}
                </span>
              )}
              <span className={`${f.help ? 'w-[110px] flex-none' : ''} truncate font-medium`}>
                {f.label}
              </span>
              {f.help && <span className="quiet">{f.help}</span>}
            </ComboboxOption>
          ))}
      </div>
    ));
  return (
    <Combobox<string | null> immediate value={null} onChange={(id) => id !== null && onChoose(id)}>
      <ComboboxInput
        autoFocus
        aria-label={`${label}: type to find`}
        placeholder="type to find"
        className="field m-1.5 flex-none"
        onChange={(e) => setQuery(e.target.value)}
      />
      <ComboboxOptions static className="scrolls min-h-0 pb-1">
        {found.length === 0 && (
          <p className="quiet px-2.5 py-2">Nothing is called or does “{query}”.</p>
        )}
        {Pictures ? <Pictures of={found}>{(urls) => list(urls)}</Pictures> : list(NO_PICTURES)}
      </ComboboxOptions>
    </Combobox>
  );
}
