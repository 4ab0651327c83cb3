import { type KeyboardEvent, memo, type PointerEvent, type ReactNode, useRef } from 'react';
import type {
  ColourPlace,
  Ellipse,
  Line,
  Parameter,
  ParameterValue,
  Path,
  Point,
} from '../../../core';
import { useBench } from './context';
import type { Handle } from './handles';
import { isCorner, movedHandle, movedNode, turned, withNode, withoutNode } from './paths';

type Place = readonly [number, number];
const held = (v: number): number => Math.max(-4, Math.min(5, Math.round(v * 1e4) / 1e4));

/** Handles on the hero: an overlay in shares of the frame, also for places outside it. */
export function Handles({ shape }: { shape: Place }) {
  const handles = useBench((s) => s.handles),
    shown = useBench((s) => s.handlesShown);
  const busy = useBench((s) => s.picking !== null || s.placing !== null);
  if (!shown || handles.size === 0) return null;
  return (
    // While picking or setting a place, clicks belong to the picture.
    <div className="absolute inset-0 pointer-events-none" data-testid="handles" inert={busy}>
      {[...handles].map(([id, h]) => (
        <span key={id} className="contents">
          {h.neighbours && (
            <Drawing shape={shape}>
              {h.neighbours.map((v, i) => (
                <g key={i} fill="none" data-neighbour="" strokeDasharray="4 4">
                  <path
                    d={outlineOf(h.parameter, v, shape)}
                    stroke="#000"
                    strokeOpacity=".5"
                    strokeWidth="2.5"
                    vectorEffect="non-scaling-stroke"
                  />
                  <path
                    d={outlineOf(h.parameter, v, shape)}
                    className="stroke-primary"
                    strokeWidth="1.25"
                    vectorEffect="non-scaling-stroke"
                  />
                </g>
              ))}
            </Drawing>
          )}
          <One handle={h} shape={shape} />
        </span>
      ))}
    </div>
  );
}

function One({ handle, shape }: { handle: Handle; shape: Place }) {
  const { parameter: p, value } = handle;
  switch (p.kind) {
    case 'point':
      return (
        <Grip
          {...handle}
          at={value as Point}
          onMove={(x, y, g) => handle.put([held(x), held(y)], g)}
        />
      );
    case 'line': {
      const [x0, y0, x1, y1] = value as Line;
      return (
        <>
          <Drawing shape={shape}>
            <Stroke d={`M${x0 * shape[0]} ${y0 * shape[1]}L${x1 * shape[0]} ${y1 * shape[1]}`} />
          </Drawing>
          <Grip
            {...handle}
            label={`${handle.label} from`}
            at={[x0, y0]}
            onMove={(x, y, g) => handle.put([held(x), held(y), x1, y1], g)}
          />
          <Grip
            {...handle}
            label={`${handle.label} to`}
            at={[x1, y1]}
            onMove={(x, y, g) => handle.put([x0, y0, held(x), held(y)], g)}
          />
        </>
      );
    }
    case 'ellipse':
      return (
        <Oval handle={handle} value={value as Ellipse} box={p.outline === 'box'} shape={shape} />
      );
    case 'path':
      return <Outline handle={handle} path={value as Path} shape={shape} />;
    case 'colours':
      return (value as readonly ColourPlace[]).map((c, i, all) => (
        <Grip
          key={i}
          {...handle}
          label={`${handle.label} ${i + 1}`}
          at={[c[0], c[1]]}
          onMove={(x, y, g) =>
            handle.put(
              all.map((o, k) => (k === i ? ([held(x), held(y), o[2], o[3], o[4]] as const) : o)),
              g,
            )
          }
        />
      ));
    default:
      return null;
  }
}

const Drawing = ({ shape, children }: { shape: Place; children: ReactNode }) => (
  <svg
    aria-hidden="true"
    className="absolute inset-0 w-full h-full overflow-visible"
    viewBox={`0 0 ${shape[0]} ${shape[1]}`}
    preserveAspectRatio="none"
  >
    {children}
  </svg>
);
/** A thin gold line with a dark outline, visible on any picture. */
const Stroke = ({ d }: { d: string }) => (
  <>
    <path
      d={d}
      fill="none"
      stroke="#000"
      strokeOpacity=".55"
      strokeWidth="3"
      vectorEffect="non-scaling-stroke"
    />
    <path
      d={d}
      fill="none"
      className="stroke-primary"
      strokeWidth="1.25"
      vectorEffect="non-scaling-stroke"
    />
  </>
);

interface GripProps {
  readonly label: string;
  readonly at: Place;
  readonly onMove: (x: number, y: number, gesture: string, e: PointerEvent | KeyboardEvent) => void;
  readonly end: () => void;
  readonly kind?: 'node' | 'corner' | 'arm';
  /** Handles keys besides the arrows; returns whether it did. */
  readonly onKey?: (e: KeyboardEvent) => boolean;
  readonly onDoubleClick?: () => void;
}
const SHAPES = {
  node: 'w-[11px] h-[11px] rounded-full',
  corner: 'w-[10px] h-[10px]',
  arm: 'w-[7px] h-[7px] rounded-full',
};

/** A point that is dragged, or moved by the arrow keys (0.1 %; with Shift 1 %). */
function Grip({ label, at, onMove, end, kind = 'node', onKey, onDoubleClick }: GripProps) {
  const from = useRef<{ x: number; y: number; at: Place; width: number; height: number } | null>(
    null,
  );
  const down = (e: PointerEvent<HTMLElement>) => {
    e.stopPropagation();
    e.currentTarget.setPointerCapture(e.pointerId);
    const r = e.currentTarget.closest('[data-testid=handles]')!.getBoundingClientRect();
    from.current = { x: e.clientX, y: e.clientY, at, width: r.width, height: r.height };
  };
  const move = (e: PointerEvent) => {
    const f = from.current;
    if (f)
      onMove(
        f.at[0] + (e.clientX - f.x) / f.width,
        f.at[1] + (e.clientY - f.y) / f.height,
        `handle ${label}`,
        e,
      );
  };
  const up = () => {
    if (from.current) end();
    from.current = null;
  };
  const key = (e: KeyboardEvent) => {
    const by = e.shiftKey ? 0.01 : 0.001;
    const step: Place | undefined = {
      ArrowLeft: [-by, 0],
      ArrowRight: [by, 0],
      ArrowUp: [0, -by],
      ArrowDown: [0, by],
    }[e.key] as Place | undefined;
    if (step) onMove(at[0] + step[0], at[1] + step[1], `handle ${label}`, e);
    else if (!onKey?.(e)) return;
    e.preventDefault();
    e.stopPropagation();
  };
  return (
    <button
      className={`absolute -translate-x-1/2 -translate-y-1/2 ${SHAPES[kind]} border-2 border-primary bg-black/40 outline-1 outline-black/60 focus-visible:bg-primary pointer-events-auto cursor-move touch-none`}
      style={{ left: `${at[0] * 100}%`, top: `${at[1] * 100}%` }}
      aria-label={label}
      title={label}
      onPointerDown={down}
      onPointerMove={move}
      onPointerUp={up}
      onKeyDown={key}
      onBlur={end}
      onDoubleClick={onDoubleClick}
    />
  );
}

/** A grip that re-renders only when its appearance changes. */
const StillGrip = memo(
  Grip,
  (a, b) => a.label === b.label && a.kind === b.kind && a.at[0] === b.at[0] && a.at[1] === b.at[1],
);

const turn = (x: number, y: number, degrees: number): Place => {
  const a = (degrees * Math.PI) / 180;
  return [x * Math.cos(a) - y * Math.sin(a), x * Math.sin(a) + y * Math.cos(a)];
};

/** A place at a distance in lines from an oval's middle, along its own axes; in shares. */
function offMiddle([cx, cy, , , angle]: Ellipse, x: number, y: number, shape: Place): Place {
  const [u, v] = turn(x, y, angle),
    lines = 1080 / shape[1];
  return [cx + u / lines / shape[0], cy + v / lines / shape[1]];
}
const drawn = (all: readonly Place[], [w, h]: Place): string =>
  `M${all.map(([x, y]) => `${x * w} ${y * h}`).join('L')}`;
function ovalOf(value: Ellipse, box: boolean, shape: Place): string {
  const [, , rx, ry] = value;
  const at = (x: number, y: number): Place => offMiddle(value, x, y, shape);
  const corners = box
    ? [at(-rx, -ry), at(rx, -ry), at(rx, ry), at(-rx, ry)]
    : Array.from({ length: 48 }, (_, i) =>
        at(rx * Math.cos((i * Math.PI) / 24), ry * Math.sin((i * Math.PI) / 24)),
      );
  return `${drawn(corners, shape)}Z`;
}
const curveOf = (path: Path, [w, h]: Place): string =>
  path
    .map((a, i) => {
      const b = path[(i + 1) % path.length]!;
      const curve = `C${(a[0] + a[4]) * w} ${(a[1] + a[5]) * h} ${(b[0] + b[2]) * w} ${(b[1] + b[3]) * h} ${b[0] * w} ${b[1] * h}`;
      return `${i === 0 ? `M${a[0] * w} ${a[1] * h}` : ''}${curve}`;
    })
    .join('');
/** Radius of the ring that marks a place, in lines. */
const RING = 8;
/** The outline of a shape's value; places are rings. */
function outlineOf(p: Parameter, value: ParameterValue, shape: Place): string {
  if (p.kind === 'path') return curveOf(value as Path, shape);
  if (p.kind === 'ellipse') return ovalOf(value as Ellipse, p.outline === 'box', shape);
  if (p.kind === 'line') {
    const [x0, y0, x1, y1] = value as Line;
    return drawn(
      [
        [x0, y0],
        [x1, y1],
      ],
      shape,
    );
  }
  const places = p.kind === 'colours' ? (value as readonly ColourPlace[]) : [value as Point];
  return places.map(([x, y]) => ovalOf([x, y, RING, RING, 0], false, shape)).join('');
}

/** Handles of an ellipse or a box: middle, half width (which also rotates it) and half height. */
function Oval({
  handle,
  value,
  box,
  shape,
}: {
  handle: Handle;
  value: Ellipse;
  box: boolean;
  shape: Place;
}) {
  const [cx, cy, rx, ry, angle] = value;
  const lines = 1080 / shape[1];
  const at = (x: number, y: number): Place => offMiddle(value, x, y, shape);
  const off = (x: number, y: number): Place => [
    (x - cx) * shape[0] * lines,
    (y - cy) * shape[1] * lines,
  ];
  return (
    <>
      <Drawing shape={shape}>
        <Stroke d={ovalOf(value, box, shape)} />
      </Drawing>
      <Grip
        {...handle}
        label={`${handle.label} middle`}
        at={[cx, cy]}
        onMove={(x, y, g) => handle.put([held(x), held(y), rx, ry, angle], g)}
      />
      <Grip
        {...handle}
        kind="corner"
        label={`${handle.label} width and turn`}
        at={at(rx, 0)}
        onMove={(x, y, g) => {
          const [u, v] = off(x, y);
          handle.put(
            [
              cx,
              cy,
              Math.round(Math.hypot(u, v) * 10) / 10,
              ry,
              Math.round((Math.atan2(v, u) * 1800) / Math.PI) / 10,
            ],
            g,
          );
        }}
      />
      <Grip
        {...handle}
        kind="corner"
        label={`${handle.label} height`}
        at={at(0, -ry)}
        onMove={(x, y, g) => {
          const [, v] = turn(...off(x, y), -angle);
          handle.put([cx, cy, rx, Math.round(Math.abs(v) * 10) / 10, angle], g);
        }}
      />
    </>
  );
}

/**
 * Handles of a path. Nodes are dragged; Insert or a double click adds one after a node, Delete
 * removes it, Enter toggles round and corner.
 */
function Outline({ handle, path, shape }: { handle: Handle; path: Path; shape: Place }) {
  const [w, h] = shape,
    d = curveOf(path, shape);
  const arms = path
    .map(
      (n) =>
        `M${(n[0] + n[2]) * w} ${(n[1] + n[3]) * h}L${n[0] * w} ${n[1] * h}L${(n[0] + n[4]) * w} ${(n[1] + n[5]) * h}`,
    )
    .join('');
  // Grips that stay in place do not re-render; they act on the latest path.
  const latest = useRef(handle);
  latest.current = handle;
  const put = (f: (now: Path) => Path, gesture: string): void =>
    latest.current.put(f(latest.current.value as Path), gesture);
  const end = (): void => latest.current.end();
  const keys = (i: number) => (e: KeyboardEvent) => {
    const acts: Record<string, (now: Path) => Path> = {
      Delete: (now) => withoutNode(now, i),
      Backspace: (now) => withoutNode(now, i),
      Insert: (now) => withNode(now, i),
      i: (now) => withNode(now, i),
      Enter: (now) => turned(now, i),
    };
    const act = acts[e.key];
    if (act) put(act, `path ${e.key} ${Date.now()}`);
    return act !== undefined;
  };
  return (
    <>
      <Drawing shape={shape}>
        <path
          d={arms}
          fill="none"
          stroke="#000"
          strokeOpacity=".5"
          strokeWidth="1"
          vectorEffect="non-scaling-stroke"
        />
        <Stroke d={d} />
      </Drawing>
      {path.map((n, i) => (
        <span key={i}>
          {!isCorner(n) &&
            (['in', 'out'] as const).map((side) => (
              <StillGrip
                key={side}
                end={end}
                kind="arm"
                label={`${handle.label} node ${i + 1} handle ${side}`}
                at={side === 'in' ? [n[0] + n[2], n[1] + n[3]] : [n[0] + n[4], n[1] + n[5]]}
                onMove={(x, y, g, e) => put((now) => movedHandle(now, i, side, x, y, e.altKey), g)}
              />
            ))}
          <StillGrip
            end={end}
            kind={isCorner(n) ? 'corner' : 'node'}
            label={`${handle.label} node ${i + 1}`}
            at={[n[0], n[1]]}
            onMove={(x, y, g) => put((now) => movedNode(now, i, x, y), g)}
            onKey={keys(i)}
            onDoubleClick={() => put((now) => withNode(now, i), `path node ${Date.now()}`)}
          />
        </span>
      ))}
    </>
  );
}
