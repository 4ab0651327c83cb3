import { Pipette } from 'lucide-react';
import { useContext } from 'react';
import type { Probed } from '../../../engine/protocol';
import { BenchContext, LayerContext, useBench } from '../context';

interface Props {
  readonly label: string;
  readonly onPicked: (p: Probed) => void;
  readonly words?: string;
}

/**
 * Has a value picked from the hero (nothing where there is none); within a layer, from what the
 * layer is given unless told otherwise.
 */
export const PickButton = (props: Props) => (useContext(BenchContext) ? <Pick {...props} /> : null);

function Pick({ label, onPicked, words }: Props) {
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
