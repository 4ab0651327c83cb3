import type { CutDocument } from '../../../core';
import { Choice } from '../../components/Choice';
import type { LookView } from '../../data/views';
import { Field } from './PlacePanel';

interface Props {
  readonly cut: CutDocument;
  readonly looks: readonly LookView[];
  readonly onEdit: (name: string, change: (c: CutDocument) => CutDocument) => void;
}
/** What holds for the whole cut: one look over everything. */
export function WholePanel({ cut, looks, onEdit }: Props) {
  const worn = looks.find((l) => l.versions.some((v) => v.id === cut.whole?.look));
  return (
    <div role="group" aria-label="The whole cut">
      <Field label="one look over everything">
        <Choice
          className="field !py-0 max-w-52"
          aria-label="one look over everything"
          value={cut.whole?.look ?? ''}
          onChange={(version) =>
            onEdit(version ? 'a look over everything' : 'no look over everything', (c) => {
              const { whole: _, ...rest } = c;
              return version ? { ...rest, whole: { look: version } } : rest;
            })
          }
        >
          <option value="">none</option>
          {worn && cut.whole && worn.versions[0]?.id !== cut.whole.look && (
            <option value={cut.whole.look}>{`${worn.name}, as it is`}</option>
          )}
          {looks
            .filter((l) => l.versions.length > 0)
            .map((l) => (
              <option key={l.id} value={l.versions[0]!.id}>
                {`${l.name} v${l.versions[0]!.number}`}
              </option>
            ))}
        </Choice>
      </Field>
    </div>
  );
}
