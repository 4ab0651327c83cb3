import { type LookDocument, moverExcess, timeOf, underLook } from '../../../core';
import { FITTING_WORDS } from '../../../core/time';
import type { ClipView } from '../../data/views';

/** Parts of a look that last longer than a clip and have no fitting chosen. */
export function tooLong(look: LookDocument, clip: ClipView): string[] {
  const time = timeOf(underLook(clip, look));
  return (look.movers ?? []).flatMap((m) => {
    const over = m.fits === undefined ? moverExcess(look, m, time) : 0;
    return over > 0
      ? [`${m.name} ${FITTING_WORDS.cut}: ${over} frame${over === 1 ? '' : 's'} too long`]
      : [];
  });
}
