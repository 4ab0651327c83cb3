import type { ColourPlace, Ellipse, Line, Path, Point } from '../../../core';
import { useBench } from './context';
import { Drawing, Stroke } from '../../components/Drawing';
import { Grip } from './Grip';
import type { Handle } from './handle';
import { held, outlineOf, type Place } from '../../domain/outlines';
import { Outline, Oval } from './ShapeHandles';

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
