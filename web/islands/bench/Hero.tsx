import { useRef, useState } from 'react';
import type { Region } from '../../../core';
import type { Pixels, Probed } from '../../engine/protocol';
import { Picture } from '../../engine/Picture';
import { useEngine } from './context';

export interface Zoom {
  readonly scale: number | 'fit';
  readonly x: number;
  readonly y: number;
}
interface Props {
  readonly shape: readonly [number, number];
  readonly zoom: Zoom;
  readonly onZoom: (z: Zoom) => void;
  readonly seam: boolean;
  readonly before: boolean;
  readonly name: string;
  /** The part that the scopes measure, as shares of the picture; dragging chooses another while `onRegion` is there. */
  readonly region: Region | null;
  readonly onRegion: ((r: Region | null) => void) | undefined;
}

const three = (v: readonly number[], digits: number): string => v.map((x) => x.toFixed(digits)).join(' ');

/** The clip that is shown large, with the seam between before and after; the wheel brings it closer, dragging moves it. */
export function Hero({ shape, zoom, onZoom, seam, before, name, region, onRegion }: Props) {
  const engine = useEngine();
  const box = useRef<HTMLDivElement>(null);
  const [at, setAt] = useState(50);
  const [pixels, setPixels] = useState<Pick<Pixels, 'exact' | 'width' | 'height'> | null>(null);
  const drag = useRef<{ x: number; y: number; from: Zoom } | null>(null);
  const inner = useRef<HTMLDivElement>(null);
  const corner = useRef<readonly [number, number] | null>(null);
  const [probed, setProbed] = useState<Probed | null>(null);
  /** Where a pointer is, as shares of the picture. */
  const placeOf = (e: React.PointerEvent): readonly [number, number] => {
    const r = inner.current!.getBoundingClientRect();
    const share = (v: number) => Math.max(0, Math.min(1, v));
    return [share((e.clientX - r.left) / r.width), share((e.clientY - r.top) / r.height)];
  };
  const fit = zoom.scale === 'fit';
  const size = fit ? { width: '100%', height: '100%' } : { width: shape[0] * (zoom.scale as number), height: shape[1] * (zoom.scale as number) };
  const wheel = (e: React.WheelEvent) => {
    const r = box.current!.getBoundingClientRect();
    const now = zoom.scale === 'fit' ? Math.min(r.width / shape[0], r.height / shape[1]) : zoom.scale;
    const next = Math.max(0.1, Math.min(8, now * (e.deltaY < 0 ? 1.2 : 1 / 1.2)));
    if (next <= Math.min(r.width / shape[0], r.height / shape[1])) return onZoom({ scale: 'fit', x: 0, y: 0 });
    // What is under the pointer stays under it.
    const px = e.clientX - r.left - r.width / 2,
      py = e.clientY - r.top - r.height / 2;
    onZoom({ scale: next, x: px - ((px - zoom.x) * next) / now, y: py - ((py - zoom.y) * next) / now });
  };
  const moveSeam = (e: React.PointerEvent) => {
    const r = e.currentTarget.parentElement!.getBoundingClientRect();
    setAt(Math.max(0, Math.min(100, ((e.clientX - r.left) / r.width) * 100)));
  };
  const picture = 'absolute inset-0 w-full h-full object-contain';
  return (
    <div
      ref={box}
      className={`relative flex-1 min-w-0 overflow-hidden bg-base-300 ${onRegion && fit ? 'cursor-crosshair' : ''}`}
      onWheel={wheel}
      onPointerDown={(e) => {
        if (!fit) {
          drag.current = { x: e.clientX, y: e.clientY, from: zoom };
          e.currentTarget.setPointerCapture(e.pointerId);
        } else if (onRegion) {
          corner.current = placeOf(e);
          e.currentTarget.setPointerCapture(e.pointerId);
        }
      }}
      onPointerLeave={() => setProbed(null)}
      onPointerMove={(e) => {
        const place = placeOf(e);
        if (onRegion) engine.probe({ x0: place[0], y0: place[1], x1: place[0], y1: place[1] }, setProbed);
        const from = corner.current;
        if (from && onRegion && Math.abs(from[0] - place[0]) > 0.01 && Math.abs(from[1] - place[1]) > 0.01)
          onRegion({
            x0: Math.min(from[0], place[0]),
            y0: Math.min(from[1], place[1]),
            x1: Math.max(from[0], place[0]),
            y1: Math.max(from[1], place[1]),
          });
        const d = drag.current;
        if (d) onZoom({ ...d.from, x: d.from.x + e.clientX - d.x, y: d.from.y + e.clientY - d.y });
      }}
      onPointerUp={() => {
        drag.current = null;
        corner.current = null;
      }}
    >
      <div
        className="absolute left-1/2 top-1/2"
        style={{ ...size, transform: `translate(calc(-50% + ${fit ? 0 : zoom.x}px), calc(-50% + ${fit ? 0 : zoom.y}px))` }}
      >
        <div
          ref={inner}
          className="absolute inset-0 m-auto"
          style={
            fit
              ? {
                  aspectRatio: `${shape[0]}/${shape[1]}`,
                  maxWidth: '100%',
                  maxHeight: '100%',
                  ...(shape[0] >= shape[1] * 1.6 ? { width: '100%' } : { height: '100%' }),
                }
              : { inset: 0 }
          }
        >
          <Picture
            engine={engine}
            view="hero"
            label={`${name} under the look`}
            className={picture}
            style={{ imageRendering: !fit && (zoom.scale as number) > 1 ? 'pixelated' : 'auto' }}
            onPixels={setPixels}
          />
          {(seam || before) && (
            <Picture
              engine={engine}
              view="before"
              label={`${name} without the look`}
              className={picture}
              style={{ clipPath: before ? 'none' : `inset(0 ${100 - at}% 0 0)` }}
            />
          )}
          {region && onRegion && (
            <span
              aria-hidden="true"
              className="absolute border border-primary pointer-events-none"
              style={{
                left: `${region.x0 * 100}%`,
                top: `${region.y0 * 100}%`,
                width: `${(region.x1 - region.x0) * 100}%`,
                height: `${(region.y1 - region.y0) * 100}%`,
              }}
            />
          )}
          {seam && !before && (
            <div
              role="slider"
              tabIndex={0}
              aria-label="Seam"
              aria-valuenow={Math.round(at)}
              aria-valuemin={0}
              aria-valuemax={100}
              className="absolute top-0 bottom-0 w-4 -ml-2 cursor-ew-resize grid justify-center touch-none"
              style={{ left: `${at}%` }}
              onPointerDown={(e) => {
                e.stopPropagation();
                e.currentTarget.setPointerCapture(e.pointerId);
              }}
              onPointerMove={(e) => {
                if (e.currentTarget.hasPointerCapture(e.pointerId)) moveSeam(e);
              }}
              onKeyDown={(e) => {
                if (e.key === 'ArrowLeft' || e.key === 'ArrowRight') {
                  e.stopPropagation();
                  setAt((v) => Math.max(0, Math.min(100, v + (e.key === 'ArrowLeft' ? -2 : 2))));
                }
              }}
            >
              <span className="w-[1.5px] bg-primary" />
            </div>
          )}
        </div>
      </div>
      {probed && (
        <span className="absolute right-2 bottom-2 num px-1.5 py-0.5 rounded-sm bg-base-300/80" data-testid="probe">
          light {three(probed.light, 3)} · encoded {three(probed.encoded, 3)} · code{' '}
          {three(
            probed.codes.map((v) => v * 255),
            0,
          )}
        </span>
      )}
      {pixels && (
        <span className="absolute left-2 bottom-2 num px-1.5 py-0.5 rounded-sm bg-base-300/80" data-testid="source">
          {before ? 'before · ' : ''}
          {pixels.exact ? 'exact' : 'proxy'} {pixels.width}×{pixels.height}
        </span>
      )}
    </div>
  );
}
