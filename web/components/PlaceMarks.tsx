import {
  type InTarget,
  kindInFrame,
  type PlaceInFrame,
  placeInTarget,
  type Point,
} from '../../core';
import { placeOutline } from '../domain/outlines';
import { Drawing, Stroke } from './Drawing';
import { PinMark } from './PinMark';

interface Props {
  /** In the look's frame. */
  readonly places: readonly PlaceInFrame[];
  /** Where that lies in the visible frame, and the visible frame's size. */
  readonly framed: InTarget | undefined;
  readonly shape: readonly [number, number];
}

/** The places of pins over a picture: points as marks, others as they are drawn. */
export function PlaceMarks({ places, framed, shape }: Props) {
  const own = framed ? ([framed.width, framed.height] as const) : shape;
  const drawn = places.filter((p) => kindInFrame(p) !== 'point');
  return (
    <>
      {drawn.length > 0 && (
        <span
          className="absolute pointer-events-none"
          style={
            framed
              ? {
                  left: `${(framed.x / framed.target.width) * 100}%`,
                  top: `${(framed.y / framed.target.height) * 100}%`,
                  width: `${(framed.width / framed.target.width) * 100}%`,
                  height: `${(framed.height / framed.target.height) * 100}%`,
                }
              : { inset: 0 }
          }
        >
          <Drawing shape={own}>
            {drawn.map((place, i) => (
              <Stroke key={i} d={placeOutline(place, own)} />
            ))}
          </Drawing>
        </span>
      )}
      {places
        .filter((p): p is Point => kindInFrame(p) === 'point')
        .map((p, i) => {
          const [x, y] = placeInTarget(p, framed);
          return <PinMark key={i} x={x} y={y} />;
        })}
    </>
  );
}
