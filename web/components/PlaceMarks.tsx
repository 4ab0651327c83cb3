import {
  type InTarget,
  kindInFrame,
  type PlaceInFrame,
  placeInTarget,
  type Point,
} from '../../core';
import { placeOutline } from '../domain/outlines';
import { Drawing, Stroke } from './Drawing';
import { InLookFrame } from './InLookFrame';
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
  const drawn = places.filter((p) => kindInFrame(p) !== 'point');
  return (
    <>
      {drawn.length > 0 && (
        <InLookFrame framed={framed} shape={shape}>
          {(own) => (
            <Drawing shape={own}>
              {drawn.map((place, i) => (
                <Stroke key={i} d={placeOutline(place, own)} />
              ))}
            </Drawing>
          )}
        </InLookFrame>
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
