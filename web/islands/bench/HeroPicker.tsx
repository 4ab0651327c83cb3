import { Pipette } from 'lucide-react';
import { useContext } from 'react';
import type { PickProps } from '../../components/PickButton';
import { LayerContext, useBench } from './context';

/** Picks from the hero; inside a layer, from the layer's input by default. */
export function HeroPicker({ label, onPicked, words }: PickProps) {
  const layer = useContext(LayerContext);
  const pick = useBench((s) => s.pick),
    waiting = useBench((s) => s.picking?.label === label && s.picking.layer === layer);
  const toggle = () => pick(waiting ? null : { label, layer, side: 'before', take: onPicked });
  return (
    <button
      className={`flex-none rounded-sm p-0.5 inline-flex items-center gap-1 hover:bg-base-300 ${waiting ? 'text-primary' : 'quiet'}`}
      aria-label={`Pick ${label} from the picture`}
      aria-pressed={waiting}
      title={`Pick ${label.toLowerCase()} from the picture`}
      onClick={toggle}
    >
      <Pipette size={12} aria-hidden="true" />
      {words}
    </button>
  );
}
