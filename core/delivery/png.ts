import type { PictureFormat } from './declare';
import { wholeColour } from './samples';

/** Numbered PNG pictures. */
export const png = {
  id: 'png',
  label: 'PNG frames',
  help: '16 bit, as an archive',
  ending: 'zip',
  makes: 'pictures',
  covers: true,
  samples: wholeColour,
  pixels: { gbrp: 'rgb24', gbrp16le: 'rgb48be', gbrap: 'rgba', gbrap16le: 'rgba64be' },
} as const satisfies PictureFormat;
