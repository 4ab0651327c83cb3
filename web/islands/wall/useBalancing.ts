/** Balances proposed for the chosen clips, or made by hand for one of them. */
import { useQuery } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import type { Balance, ClipStatistics } from '../../../core';
import type { ClipEdit } from '../../../server/clips/clips';
import { call } from '../../data/http';
import type { ProjectView } from '../../data/views';
import { editOf } from '../../data/clip-edits';
import {
  FIRST_WISH,
  type Proposal,
  proposals,
  referenceIn,
  type Wish,
} from '../../domain/balance-proposals';

/** State of balancing. */
export interface Balancing {
  readonly wish: Wish;
  readonly setWish: (w: Wish) => void;
  readonly proposed: readonly Proposal[];
  /** The balance made by hand, for the only chosen clip. */
  readonly hand: { readonly clip: string; readonly balance: Balance } | null;
  readonly setHand: (h: Balancing['hand']) => void;
  readonly hold: (held: boolean) => void;
  /** Balances that tiles preview, by clip. */
  readonly coming: ReadonlyMap<string, Balance | null>;
  /** The edits that apply them, and their name. */
  readonly taken: () => { readonly name: string; readonly edits: readonly ClipEdit[] };
}
const NOTHING_COMES: ReadonlyMap<string, null> = new Map();

/** State of balancing. */
export function useBalancing(
  project: ProjectView,
  chosen: ReadonlySet<string>,
  open: boolean,
): Balancing {
  const [wish, setWish] = useState(FIRST_WISH);
  const [held, hold] = useState(false);
  const aim = referenceIn(wish);
  const ground = useQuery({
    queryKey: ['reference statistics', aim],
    queryFn: () => call<ClipStatistics>('GET', `/api/references/${aim}/statistics`),
    enabled: aim !== null,
    staleTime: Infinity,
  }).data;
  const proposed = useMemo(
    () => (open ? proposals(project.clips, chosen, wish, ground) : []),
    [open, project.clips, chosen, wish, ground],
  );
  const [handMade, setHand] = useState<Balancing['hand']>(null);
  const hand = open && chosen.size === 1 && handMade && chosen.has(handMade.clip) ? handMade : null;
  const coming = useMemo(
    () =>
      held
        ? NOTHING_COMES
        : hand
          ? new Map([[hand.clip, hand.balance]])
          : new Map(proposed.map((p) => [p.clip.id, p.balance])),
    [held, hand, proposed],
  );
  const taken = () => {
    if (!hand)
      return {
        name: 'balance',
        edits: proposed.map(({ clip, balance }) => editOf(clip, { balance })),
      };
    setHand(null);
    const clip = project.clips.filter((c) => c.id === hand.clip);
    return {
      name: 'balance by hand',
      edits: clip.map((c) => editOf(c, { balance: hand.balance })),
    };
  };
  return { wish, setWish, proposed, hand, setHand, hold, coming, taken };
}
