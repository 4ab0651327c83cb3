import { useState } from 'react';
import { inOutOf } from '../../../core';
import type { ClipView } from '../../data/views';

/** A clip's picture that scrubs under the pointer, using the stills of its strip. */
export function Scrub({ clip }: { clip: ClipView }) {
  const [share, setShare] = useState(0.35);
  const [coded, h] = clip.proxies['270'],
    w = coded * clip.pixelAspect;
  const ends = inOutOf(clip);
  // Frames of the footage per still.
  const every = Math.max(1, Math.floor(clip.frames / clip.strip));
  const at = Math.min(
    clip.strip - 1,
    Math.floor((ends.in + share * (ends.out - ends.in + 1)) / every),
  );
  const narrow = w / h < 16 / 9;
  return (
    <span
      className="relative block aspect-video bg-base-300 overflow-hidden"
      onPointerMove={(e) => {
        const r = e.currentTarget.getBoundingClientRect();
        setShare(Math.max(0, Math.min(0.999, (e.clientX - r.left) / r.width)));
      }}
      onPointerLeave={() => setShare(0.35)}
    >
      <span
        aria-hidden="true"
        className="absolute inset-0 m-auto block"
        style={{
          [narrow ? 'height' : 'width']: '100%',
          aspectRatio: `${w}/${h}`,
          backgroundImage: `url(/api/footage/${clip.hash}/strip.jpg)`,
          backgroundSize: `${clip.strip * 100}% 100%`,
          backgroundPosition: clip.strip > 1 ? `${(at / (clip.strip - 1)) * 100}% 0` : '0 0',
        }}
      />
      <span
        className="absolute bottom-0 h-[2px] bg-primary"
        style={{ left: `${share * 100}%`, width: '2px', height: '8px' }}
        aria-hidden="true"
      />
    </span>
  );
}
