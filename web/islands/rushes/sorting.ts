/** In which order Rushes shows clips, which of them, and what of each is worth a look. */
import { framesPerSecond } from '../../../core/time';
import type { ClipView } from '../../api/views';
import { encodingLabel } from '../shared/words';

type Sorted = Pick<ClipView, 'name' | 'format' | 'rate' | 'frames' | 'encoding' | 'guess' | 'untagged' | 'slots' | 'warnings'>;

export const ORDERS = ['as brought', 'name', 'size', 'rate', 'length', 'encoding'] as const;
export type Order = (typeof ORDERS)[number];
export const SHOWN = ['all', 'worth a look'] as const;
export type Shown = (typeof SHOWN)[number];

/** What was guessed about a clip or is unusual about its file, in a word or two each. */
export const worthALook = ({ format: { fields = 'none' }, encoding, guess, untagged, slots, warnings }: Sorted): string[] => [
  ...(untagged && encoding === guess ? ['encoding guessed'] : []),
  ...(fields === 'none' ? [] : ['interlaced']),
  ...(slots ? ['uneven rate'] : []),
  ...(warnings.length > 0 ? ['damaged'] : []),
];

const FIGURES: Partial<Record<Order, (c: Sorted) => number>> = {
  size: (c) => -c.format.width * c.format.height,
  rate: (c) => framesPerSecond(c.rate),
  length: (c) => -c.frames / framesPerSecond(c.rate),
};
const WORDS: Partial<Record<Order, (c: Sorted) => string>> = { name: (c) => c.name, encoding: (c) => encodingLabel(c.encoding) };

/** Clips of whose names a part was typed, in an order (the largest and the longest first); equals stay as they were brought. */
export function sorted<C extends Sorted>(clips: readonly C[], order: Order, shown: Shown, typed = ''): C[] {
  const [figure, word] = [FIGURES[order], WORDS[order]];
  const part = typed.trim().toLowerCase();
  return clips
    .filter((c) => c.name.toLowerCase().includes(part) && (shown === 'all' || worthALook(c).length > 0))
    .sort((a, b) => (figure ? figure(a) - figure(b) : word ? word(a).localeCompare(word(b), undefined, { numeric: true }) : 0));
}
