import {
  type PointerEvent,
  type ReactNode,
  type RefObject,
  useEffect,
  useRef,
  useState,
  type WheelEvent,
} from 'react';
import type { InTarget, PlaceInFrame, Region } from '../../../core';
import type { Pixels, Probed } from '../../engine/protocol';
import { Picture } from '../../engine/client/Picture';
import type { Comparison } from './comparison';
import { useBench, useEngine } from './context';
import { InLookFrame } from '../../components/InLookFrame';
import { PlaceMarks } from '../../components/PlaceMarks';
import { Handles } from './Handles';
import { Seam } from './Seam';

/** Zoom and position of the picture. */
export interface Zoom {
  readonly scale: number | 'fit';
  readonly x: number;
  readonly y: number;
}
/** The whole picture. */
export const FIT: Zoom = { scale: 'fit', x: 0, y: 0 };

interface Props {
  readonly shape: readonly [number, number];
  readonly zoom: Zoom;
  readonly onZoom: (z: Zoom) => void;
  readonly comparing: Comparison;
  /** Whether *before* is pressed. */
  readonly before: boolean;
  readonly name: string;
  /**
   * The part that scopes measure, in shares of the picture; dragging chooses another while
   * `onRegion` is given.
   */
  readonly region: Region | null;
  readonly onRegion: ((r: Region | null) => void) | undefined;
  /** Position of the look's own frame. */
  readonly framed: InTarget | undefined;
  /** Points that are set, in shares of the frame. */
  readonly places: readonly PlaceInFrame[];
}
type Place = readonly [number, number];

const three = (v: readonly number[], digits: number): string =>
  v.map((x) => x.toFixed(digits)).join(' ');
const between = (a: Place, b: Place): Region => ({
  x0: Math.min(a[0], b[0]),
  y0: Math.min(a[1], b[1]),
  x1: Math.max(a[0], b[0]),
  y1: Math.max(a[1], b[1]),
});
/** A square of a number of pixels around a place. */
const about = ([x, y]: Place, [w, h]: Place, pixels: number): Region => ({
  x0: Math.max(0, x - pixels / 2 / w),
  y0: Math.max(0, y - pixels / 2 / h),
  x1: Math.min(1, x + pixels / 2 / w),
  y1: Math.min(1, y + pixels / 2 / h),
});
const isArea = (r: Region): boolean => r.x1 - r.x0 > 0.01 && r.y1 - r.y0 > 0.01;
const NOTE = 'absolute bottom-2 num px-1.5 py-0.5 rounded-sm bg-base-300/80';
const PICTURE = 'absolute inset-0 w-full h-full object-contain';

/** The hero, with what it is compared with. The wheel zooms, dragging moves it. */
export function Hero({
  shape,
  zoom,
  onZoom,
  comparing,
  before,
  name,
  region,
  onRegion,
  framed,
  places,
}: Props) {
  const engine = useEngine();
  const picking = useBench((s) => s.picking),
    pick = useBench((s) => s.pick),
    placing = useBench((s) => s.placing),
    place = useBench((s) => s.place);
  const [pixels, setPixels] = useState<Pick<Pixels, 'exact' | 'width' | 'height'> | null>(null);
  const told = (p: Pixels) => {
    // The full picture follows a first answer at once; the text waits for it.
    if (p.quick) return;
    setPixels((now) =>
      now?.exact === p.exact && now.width === p.width && now.height === p.height ? now : p,
    );
  };
  const [probed, setProbed] = useState<Probed | null>(null);
  const [drawn, setDrawn] = useState<Region | null>(null);
  const drag = useRef<{ x: number; y: number; from: Zoom } | null>(null);
  const corner = useRef<Place | null>(null);
  const inner = useRef<HTMLDivElement>(null);
  const fit = zoom.scale === 'fit';
  const marks = picking !== null || placing !== null || (onRegion !== undefined && fit);
  useEscape(picking !== null, () => pick(null));
  useEscape(placing !== null, () => place(null));

  const placeOf = (e: PointerEvent): Place => {
    const r = inner.current!.getBoundingClientRect();
    const share = (v: number) => Math.max(0, Math.min(1, v));
    return [share((e.clientX - r.left) / r.width), share((e.clientY - r.top) / r.height)];
  };
  const wheel = (e: WheelEvent) => {
    const r = e.currentTarget.getBoundingClientRect();
    const whole = Math.min(r.width / shape[0], r.height / shape[1]);
    const now = zoom.scale === 'fit' ? whole : zoom.scale;
    const next = Math.max(0.1, Math.min(8, now * (e.deltaY < 0 ? 1.2 : 1 / 1.2)));
    if (next <= whole) return onZoom(FIT);
    // Keeps the place under the pointer.
    const px = e.clientX - r.left - r.width / 2,
      py = e.clientY - r.top - r.height / 2;
    onZoom({
      scale: next,
      x: px - ((px - zoom.x) * next) / now,
      y: py - ((py - zoom.y) * next) / now,
    });
  };
  const down = (e: PointerEvent<HTMLElement>) => {
    if (marks) corner.current = placeOf(e);
    else if (!fit) drag.current = { x: e.clientX, y: e.clientY, from: zoom };
    if (marks || !fit) e.currentTarget.setPointerCapture(e.pointerId);
  };
  const move = (e: PointerEvent) => {
    const at = placeOf(e);
    if (onRegion || picking)
      engine.probe(
        e.altKey ? about(at, shape, 9) : about(at, shape, 0),
        setProbed,
        picking ?? undefined,
      );
    const from = corner.current;
    if (from && !placing && isArea(between(from, at)))
      (picking ? setDrawn : onRegion)?.(between(from, at));
    const d = drag.current;
    if (d) onZoom({ ...d.from, x: d.from.x + e.clientX - d.x, y: d.from.y + e.clientY - d.y });
  };
  const up = (e: PointerEvent) => {
    const from = corner.current;
    if (placing && from) {
      const wants = placing.take(placeOf(e));
      if (!placing.many && wants !== 'more') place(null);
    } else if (picking && from) {
      /** Inside the picture, if it is narrower than its area. */
      const at = placeOf(e),
        area = between(from, at);
      engine.probe(
        isArea(area) ? area : about(at, shape, e.altKey ? 9 : 0),
        (p) => {
          picking.take(p);
          pick(null);
        },
        picking,
      );
      setDrawn(null);
    }
    drag.current = corner.current = null;
  };
  const pane = {
    shape,
    zoom,
    onWheel: wheel,
    onPointerDown: down,
    onPointerMove: move,
    onPointerUp: up,
  };
  const { mode } = comparing;
  const sharp = {
    imageRendering: !fit && (zoom.scale as number) > 1 ? 'pixelated' : 'auto',
  } as const;
  /** Within the picture, where that is narrower than its place. */
  const inset =
    fit && mode !== 'beside'
      ? `calc(max(0px, (100cqw - 100cqh * ${shape[0] / shape[1]}) / 2) + 8px)`
      : '8px';
  const shownRegion = drawn ?? (onRegion ? region : null);
  return (
    <div
      className={`relative isolate flex-1 min-w-0 flex gap-px bg-base-300 ${marks ? 'cursor-crosshair' : ''}`}
      onPointerLeave={() => setProbed(null)}
      data-compare={mode}
      style={{ containerType: 'size' }}
    >
      {mode === 'beside' && (
        <Pane {...pane}>
          <Picture
            engine={engine}
            view="before"
            label={`Before: ${comparing.name}`}
            className={PICTURE}
            style={sharp}
          />
        </Pane>
      )}
      <Pane {...pane} inner={inner}>
        <Picture
          engine={engine}
          view="hero"
          label={`${name} under the look`}
          className={PICTURE}
          style={sharp}
          onPixels={told}
        />
        {mode === 'difference' && !before && (
          <Picture
            engine={engine}
            view="difference"
            label={`How far ${name} differs from ${comparing.name}`}
            className={PICTURE}
            style={sharp}
          />
        )}
        {mode === 'seam' && !before ? (
          <Seam upright={comparing.upright}>
            {(clipPath) => (
              <Picture
                engine={engine}
                view="before"
                label={`Before: ${comparing.name}`}
                className={PICTURE}
                style={{ ...sharp, clipPath }}
              />
            )}
          </Seam>
        ) : (
          before && (
            <Picture
              engine={engine}
              view="before"
              label={`Before: ${comparing.name}`}
              className={PICTURE}
              style={sharp}
            />
          )
        )}
        <InLookFrame framed={framed} shape={shape}>
          {(own) => <Handles shape={own} />}
        </InLookFrame>
        <PlaceMarks places={places} framed={framed} shape={shape} />
        {shownRegion && (
          <span
            aria-hidden="true"
            className="absolute border border-primary pointer-events-none"
            style={{
              left: `${shownRegion.x0 * 100}%`,
              top: `${shownRegion.y0 * 100}%`,
              width: `${(shownRegion.x1 - shownRegion.x0) * 100}%`,
              height: `${(shownRegion.y1 - shownRegion.y0) * 100}%`,
            }}
          />
        )}
      </Pane>
      {picking && <PickLine />}
      {placing && (
        <div
          className="absolute top-2 left-1/2 -translate-x-1/2 flex items-center gap-2 px-2 py-1 rounded-sm bg-base-100 border border-primary"
          role="status"
        >
          <span>
            <span className="font-medium">{placing.label}</span>:{' '}
            {placing.asks ?? (placing.many ? 'click each place' : 'click the place')}
          </span>
          <button className="word quiet" onClick={() => place(null)}>
            {placing.many ? 'done' : 'cancel'} <span className="num">Esc</span>
          </button>
        </div>
      )}
      {probed && (
        <span className={NOTE} style={{ right: inset }} data-testid="probe">
          light {three(probed.light, 3)} · encoded {three(probed.encoded, 3)} · code{' '}
          {three(
            probed.codes.map((v) => v * 255),
            0,
          )}
        </span>
      )}
      {mode === 'beside' && <span className={`${NOTE} left-2`}>{comparing.name}</span>}
      {pixels && (
        <span
          className={NOTE}
          style={{ left: mode === 'beside' ? 'calc(50% + 8px)' : inset }}
          data-testid="source"
        >
          {before && `before (${comparing.name}) · `}
          {mode === 'difference' &&
            !before &&
            `differs from ${comparing.name}, ×${comparing.gain} · `}
          {pixels.exact ? 'exact' : 'proxy'} {pixels.width}×{pixels.height}
        </span>
      )}
    </div>
  );
}

interface PaneProps {
  readonly shape: Place;
  readonly zoom: Zoom;
  readonly inner?: RefObject<HTMLDivElement | null>;
  readonly onWheel: (e: WheelEvent) => void;
  readonly onPointerDown: (e: PointerEvent<HTMLElement>) => void;
  readonly onPointerMove: (e: PointerEvent) => void;
  readonly onPointerUp: (e: PointerEvent) => void;
  readonly children: ReactNode;
}

/** A view of a picture with the frame's shape, at a zoom shared by all views. */
function Pane({ shape, zoom, inner, children, ...hears }: PaneProps) {
  const fit = zoom.scale === 'fit';
  const size = fit
    ? { width: '100%', height: '100%' }
    : { width: shape[0] * (zoom.scale as number), height: shape[1] * (zoom.scale as number) };
  // As large as fits, always in the frame's shape: handles, pins and probes use shares of it.
  const frame = {
    width: `min(100cqw, 100cqh * ${shape[0] / shape[1]})`,
    height: `min(100cqh, 100cqw * ${shape[1] / shape[0]})`,
  };
  return (
    <div className="relative flex-1 min-w-0 overflow-hidden" {...hears}>
      <div
        className="absolute left-1/2 top-1/2"
        style={{
          ...size,
          containerType: 'size',
          transform: `translate(calc(-50% + ${fit ? 0 : zoom.x}px), calc(-50% + ${fit ? 0 : zoom.y}px))`,
        }}
      >
        <div ref={inner} className="absolute inset-0 m-auto" style={fit ? frame : { inset: 0 }}>
          {children}
        </div>
      </div>
    </div>
  );
}

/** What is being picked, and on which side of its layer. */
function PickLine() {
  const picking = useBench((s) => s.picking)!,
    pick = useBench((s) => s.pick);
  return (
    <div
      className="absolute top-2 left-1/2 -translate-x-1/2 flex items-center gap-2 px-2 py-1 rounded-sm bg-base-100 border border-primary"
      role="status"
    >
      <span>
        <span className="font-medium">{picking.label}</span>: click a point or drag over an area
      </span>
      {picking.layer !== undefined &&
        (['before', 'after'] as const).map((side) => (
          <button
            key={side}
            className={`word ${picking.side === side ? 'framed' : ''}`}
            aria-pressed={picking.side === side}
            onClick={() => pick({ ...picking, side })}
          >
            {side} the layer
          </button>
        ))}
      <button className="word quiet" onClick={() => pick(null)}>
        cancel <span className="num">Esc</span>
      </button>
    </div>
  );
}

function useEscape(on: boolean, act: () => void): void {
  const told = useRef(act);
  told.current = act;
  useEffect(() => {
    if (!on) return;
    const onKey = (e: KeyboardEvent) => {
      if (e.key === 'Escape') told.current();
    };
    addEventListener('keydown', onKey);
    return () => removeEventListener('keydown', onKey);
  }, [on]);
}
