import { standingOut } from '../following';
import { binding, object } from './declare';

/**
 * The colour that contrasts with each clip's main hue. Until a clip is known, that of a clip
 * without a hue.
 */
export const clipColour = binding<'clip'>({
  id: 'clip',
  schemas(p) {
    const description = 'the colour that stands out from each clip’s main hue';
    return p.kind === 'colour' ? [object({ clip: { const: 'standing-out', description } })] : [];
  },
  faults: (s, p, path) =>
    p.kind === 'colour' && s.clip === 'standing-out'
      ? []
      : [{ path, message: 'only a colour can be what stands out from a clip' }],
  resolve: () => standingOut(undefined),
  pruned: (s) => s,
  words: () => 'what stands out from each clip',
});
