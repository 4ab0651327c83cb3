/** The looks that ship, built only from what any user has. */
import type { LookDocument } from '../document';
import contourLamp from './contour-lamp.json';
import silt from './silt.json';
import softLens from './soft-lens.json';

export const SHIPPED: readonly { readonly id: string; readonly help: string; readonly look: LookDocument }[] = [
  { id: 'soft-lens', help: 'Old uncoated glass: highlights bloom, blacks breathe, the corners fall off.', look: softLens as unknown as LookDocument },
  {
    id: 'contour-lamp',
    help: 'A thin clean contour of what is in the picture lights up with tight and wide light.',
    look: contourLamp as unknown as LookDocument,
  },
  { id: 'silt', help: 'Drained, hard, clean blacks.', look: silt as unknown as LookDocument },
];

/** By its id or its name, whatever the case. */
export const shippedLook = (name: string): LookDocument | undefined =>
  SHIPPED.find((s) => s.id === name.toLowerCase() || s.look.name.toLowerCase() === name.toLowerCase())?.look;
