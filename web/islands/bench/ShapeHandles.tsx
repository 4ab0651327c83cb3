import { type KeyboardEvent, useRef } from 'react';
import type { Ellipse, Path } from '../../../core';
import { Drawing, Stroke } from '../../components/Drawing';
import { Grip, StillGrip } from './Grip';
import type { Handle } from './handle';
import { curveOf, held, offMiddle, ovalOf, type Place, turn } from '../../domain/outlines';
import { isCorner, movedHandle, movedNode, turned, withNode, withoutNode } from './paths';

/** Handles of an ellipse or a box: middle, half width (which also rotates it) and half height. */
export function Oval({
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
export function Outline({ handle, path, shape }: { handle: Handle; path: Path; shape: Place }) {
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
