/**
 * A plate tried over a clip: the clip's look with the plate laid on top, and what the engine has to
 * know of both.
 */
import {
  BLEND_MODES,
  type BlendId,
  edit,
  type LookDocument,
  type PlatePoints,
} from '../../../core';
import type { ClipView } from '../../data/views';

const PIN = { key: 'tried-plate', label: 'Plate', kind: 'footage', many: false } as const;

/** The look with the plate as its topmost layer, and the pin that it is asked for by. */
export function plated(
  look: LookDocument,
  blend: BlendId,
  opacity: number,
): { readonly look: LookDocument; readonly pin: string } {
  const asked = edit.addPin(look, PIN);
  const pin = asked.pins!.at(-1)!.key;
  const layer = {
    ...edit.newLayer('plate', 'footage', []),
    from: pin,
    blend,
    opacity: { value: opacity },
  };
  return { look: edit.addLayer(asked, layer), pin };
}

/** The clip with the plate set as its pin, from its first frame. */
export const withPlate = (clip: ClipView, pin: string, plate: ClipView): ClipView => ({
  ...clip,
  pins: { ...clip.pins, [pin]: [{ hash: plate.hash, start: 0, speed: 1 }] },
});

/**
 * The points a plate has: set by hand, or as they were found; none while it is still being
 * measured.
 */
export const pointsOf = (plate: ClipView): PlatePoints | null =>
  plate.plate ?? plate.statistics?.plate ?? null;

/**
 * The mode a plate is likely meant for: covering ones simply lie there, dark ones are screened,
 * bright ones multiplied.
 */
export function likelyBlend(plate: ClipView): BlendId {
  if (plate.format.alpha) return 'normal';
  return (plate.statistics?.tones.p50 ?? 0) > 0.5 ? 'multiply' : 'screen';
}

/** What its points do under a mode, in words. */
export const pointsWords = (blend: BlendId): string =>
  ({
    black: 'its black lifts nothing by this mode',
    white: 'its white greys nothing by this mode',
    none: 'this mode takes it as it is',
  })[BLEND_MODES[blend].neutral ?? 'none'];
