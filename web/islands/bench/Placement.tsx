import { edit, type Layer, PLACEMENT, resolve } from '../../../core';
import { useBench } from './context';
import { ParameterControl } from './controls/ParameterControl';

const CORNERS = /^(upper|lower)-/;
const BY_SIZE = ['position', 'scale-x', 'scale-y', 'turn', 'anchor', 'cover'];

/** Where a layer lies, once it is not simply where it is. */
export function Placement({ layer }: { layer: Layer }) {
  const look = useBench((s) => s.look),
    change = useBench((s) => s.change);
  const { placement } = layer;
  const place = (on: boolean) => change(on ? `place ${layer.name}` : `${layer.name} as it lies`, edit.placeLayer(look, layer.key, on));
  if (!placement)
    return (
      <button className="word quiet" onClick={() => place(true)} title="Move, size, turn, or stretch it to four corners">
        + placement
      </button>
    );
  const corners = resolve(look, placement['by-corners'] ?? { value: false }, {}) === true;
  return (
    <div className="border-t line mt-1 pt-1" data-placement={layer.key}>
      <div className="flex items-center">
        <span className="quiet mr-auto">placement</span>
        <button className="word quiet" onClick={() => place(false)}>
          as it lies
        </button>
      </div>
      {PLACEMENT.filter((p) => (corners ? !BY_SIZE.includes(p.id) : !CORNERS.test(p.id))).map((p) => (
        <ParameterControl
          key={p.id}
          parameter={p}
          setting={placement[p.id] ?? { value: p.default }}
          name={`${layer.name} ${p.label.toLowerCase()}`}
          reset={p.default}
          onSetting={(doc, s) => edit.setPlacement(doc, layer.key, p.id, s)}
        />
      ))}
    </div>
  );
}
