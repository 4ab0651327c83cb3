import { use, useState } from 'react';
import { edit, type Layer, PLACED, PLACEMENT, placeInFrame, resolve } from '../../../core';
import { type Covering, CoveringContext, useBench, useEngine } from './context';
import { ParameterControl } from './controls/ParameterControl';

const CORNERS = /^(upper|lower)-/;
const BY_SIZE = ['position', 'scale-x', 'scale-y', 'turn', 'turns-about', 'cover'];

const OWN_CORNERS = ['upper-left', 'upper-right', 'lower-right', 'lower-left'] as const;

/** A button that places the layer into the hole of footage above it. */
function IntoHole({ layer, covering }: { layer: Layer; covering: Covering }) {
  const change = useBench((s) => s.change);
  const engine = useEngine();
  const [none, setNone] = useState(false);
  const fit = async () => {
    const corners = await engine.hole(covering.id);
    setNone(corners === null);
    if (!corners) return;
    change(`${layer.name} into the hole of ${covering.name}`, (now) =>
      corners.reduce(
        (doc, at, i) =>
          edit.setPlacement(doc, layer.key, OWN_CORNERS[i]!, {
            value: placeInFrame(at, covering.framing),
          }),
        edit.setPlacement(now, layer.key, 'by-corners', { value: true }),
      ),
    );
  };
  return (
    <span className="flex items-center gap-2">
      <button
        className="word"
        title="Stretches it to the corners of the opening that its coverage leaves"
        onClick={() => void fit()}
      >
        into the hole of {covering.name}
      </button>
      {none && <span role="status">it has no hole</span>}
    </span>
  );
}

/** Controls of a layer's placement. */
export function Placement({ layer }: { layer: Layer }) {
  const change = useBench((s) => s.change),
    corners = useBench(
      (s) => resolve(s.look, layer.placement?.['by-corners'] ?? { value: false }, {}) === true,
    );
  const all = use(CoveringContext);
  const { placement } = layer;
  const place = (on: boolean) =>
    change(on ? `place ${layer.name}` : `${layer.name} as it lies`, (now) =>
      edit.placeLayer(now, layer.key, on),
    );
  if (!placement)
    return (
      <button
        className="word quiet"
        onClick={() => place(true)}
        title="Move, size, turn, or stretch it to four corners"
      >
        + placement
      </button>
    );
  return (
    <div className="border-t line mt-1 pt-1" data-placement={layer.key}>
      <div className="flex items-center">
        <span className="quiet mr-auto">placement</span>
        <button className="word quiet" onClick={() => place(false)}>
          as it lies
        </button>
      </div>
      {all.map((covering) => (
        <IntoHole key={covering.id} layer={layer} covering={covering} />
      ))}
      {PLACEMENT.filter((p) => (corners ? !BY_SIZE.includes(p.id) : !CORNERS.test(p.id))).map(
        (p) => (
          <ParameterControl
            key={p.id}
            parameter={p}
            setting={placement[p.id] ?? { value: p.default }}
            name={`${layer.name} ${p.label.toLowerCase()}`}
            reset={p.default}
            measured={p.id === 'position'}
            own={`${layer.key}/placement`}
            path={`${layer.key}/${PLACED}/${p.id}`}
            onSetting={(doc, s) => edit.setPlacement(doc, layer.key, p.id, s)}
          />
        ),
      )}
    </div>
  );
}
