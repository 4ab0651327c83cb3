/**
 * Tries a plate over a clip: the clip's look with the plate on top, and what the engine needs to
 * know.
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

/** The look with the plate as its top layer, and the key of its pin. */
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

/** The clip with the plate set as its pin, starting at the first frame. */
export const withPlate = (clip: ClipView, pin: string, plate: ClipView): ClipView => ({
  ...clip,
  pins: { ...clip.pins, [pin]: [{ hash: plate.hash, start: 0, speed: 1 }] },
});

/** The plate's points: set by hand or measured; null while they are being measured. */
export const pointsOf = (plate: ClipView): PlatePoints | null =>
  plate.plate ?? plate.statistics?.plate ?? null;

/** The likely blend mode of a plate: normal with coverage, screen if dark, multiply if bright. */
export function likelyBlend(plate: ClipView): BlendId {
  if (plate.format.alpha) return 'normal';
  return (plate.statistics?.tones.p50 ?? 0) > 0.5 ? 'multiply' : 'screen';
}

/** The effect of its points in a mode, as text. */
export const pointsWords = (blend: BlendId): string =>
  ({
    black: 'its black lifts nothing by this mode',
    white: 'its white greys nothing by this mode',
    none: 'this mode takes it as it is',
  })[BLEND_MODES[blend].neutral ?? 'none'];
