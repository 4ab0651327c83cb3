import type { ClipView } from '../../data/views';

/** A frame of a clip's footage. */
export const Still = ({ clip, frame }: { readonly clip: ClipView; readonly frame: number }) => (
  <img
    className="block w-full aspect-video object-contain bg-base-300"
    src={`/api/footage/${clip.hash}/stills/${frame}`}
    alt={`${clip.name}, frame ${frame}`}
    loading="lazy"
  />
);
