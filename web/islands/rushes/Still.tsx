import type { ClipView } from '../../data/views';

interface Props {
  readonly clip: ClipView;
  readonly frame: number;
}
/** A frame of a clip's footage, in the shape it is shown in. */
export function Still({ clip, frame }: Props) {
  const { width, height } = clip.format;
  const shape = (width * clip.pixelAspect) / height;
  return (
    <span className="grid place-items-center w-full aspect-video bg-base-300 overflow-hidden">
      <img
        className={shape < 16 / 9 ? 'h-full' : 'w-full'}
        style={{ aspectRatio: String(shape) }}
        src={`/api/footage/${clip.hash}/stills/${frame}`}
        alt={`${clip.name}, frame ${frame}`}
        loading="lazy"
      />
    </span>
  );
}
