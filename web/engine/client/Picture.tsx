/** A canvas that shows the latest picture of one view. */
import { type CSSProperties, useEffect, useRef, useState } from 'react';
import type { EngineClient } from './client';
import type { Pixels } from '../protocol';

interface Props {
  readonly engine: EngineClient;
  readonly view: string;
  readonly label: string;
  readonly className?: string;
  readonly style?: CSSProperties;
  readonly onPixels?: (p: Pixels) => void;
}

/** The canvas of a view. */
export function Picture({ engine, view, label, className, style, onPixels }: Props) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const told = useRef(onPixels);
  told.current = onPixels;
  const [shown, setShown] = useState(false);
  useEffect(
    () =>
      engine.on(view, (p) => {
        const c = canvas.current;
        if (!c) return;
        // A canvas for bitmaps keeps its own size, not that of the bitmap.
        if (c.width !== p.width || c.height !== p.height) {
          c.width = p.width;
          c.height = p.height;
        }
        c.getContext('bitmaprenderer')!.transferFromImageBitmap(p.bitmap);
        c.dataset['serial'] = String(p.serial);
        c.dataset['clip'] = p.clip;
        c.dataset['frame'] = String(p.frame);
        c.dataset['exact'] = String(p.exact);
        c.dataset['backEnd'] = p.backEnd;
        c.dataset['milliseconds'] = String(p.milliseconds);
        setShown(true);
        told.current?.(p);
      }),
    [engine, view],
  );
  // Announces whether the picture is the requested one yet, for screen readers.
  useEffect(() => {
    const say = (): void => {
      const c = canvas.current,
        busy = String(engine.isBusy(view));
      if (c && c.ariaBusy !== busy) c.ariaBusy = busy;
    };
    say();
    return engine.onAges(say);
  }, [engine, view]);
  return (
    <canvas
      ref={canvas}
      role="img"
      aria-label={label}
      data-view={view}
      className={className}
      style={{ ...style, visibility: shown ? 'visible' : 'hidden' }}
    />
  );
}
