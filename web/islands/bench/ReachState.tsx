import { useEffect, useState } from 'react';
import { lengthOf, looksElsewhere, type Reach, reachOf } from '../../../core';
import type { ClipView } from '../../data/views';
import { useBench } from './context';

/** Delay after the last edit, ms: a look with a long trail is planned as often as it has copies. */
const AFTER = 600;

/** Shows how many frames the look looks back and ahead. */
export function ReachState({ clip }: { readonly clip: ClipView }) {
  const look = useBench((s) => s.look);
  const [reach, setReach] = useState<Reach | null>(null);
  useEffect(() => {
    const find = (): Reach | null => {
      if (!looksElsewhere(look)) return null;
      const some = [0.5, 1].map((share) => Math.round(share * (lengthOf(clip) - 1)));
      return reachOf(look, { ...clip, content: clip.hash }, some);
    };
    const later = setTimeout(() => setReach(find()), AFTER);
    return () => clearTimeout(later);
  }, [look, clip]);
  if (!reach || reach.before + reach.behind === 0) return null;
  const words = [
    ...(reach.before > 0 ? [`${reach.before} back`] : []),
    ...(reach.behind > 0 ? [`${reach.behind} ahead`] : []),
  ];
  return (
    <span title="How many frames before and behind each one the look looks at: what a jump has to fetch">
      looks {words.join(', ')}
    </span>
  );
}
