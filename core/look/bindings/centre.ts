import { unsuited } from '../../parameters';
import { centresFrom, matteAt, matteWithCentre } from '../following';
import { binding, object, type Schema } from './declare';
import { inTheMiddle, shaped } from './shaped';

const PATH: Schema = {
  type: 'string',
  description: 'layer/matte or layer/step/matte: the middle of a matte that is drawn',
};
/** Suffix of paths at which a centre that is measured in the picture may be used. */
const PLACED = '.placement.position';

/** The centre of a matte: of a shape from its parameters, of any other measured in the picture. */
export const centre = binding<'centre'>({
  id: 'centre',
  isWithinLook: true,
  schemas(p, value) {
    if (p.kind === 'point') return [object({ centre: PATH })];
    return p.kind === 'ellipse' ? [object({ centre: PATH, shape: value })] : [];
  },
  faults({ centre: at, shape }, p, path, { look }) {
    if (p.kind !== 'point' && p.kind !== 'ellipse')
      return [{ path, message: `a ${p.kind} cannot lie at the middle of a matte` }];
    if (typeof at !== 'string' || !matteAt(look, at))
      return [{ path, message: `names "${String(at)}", which is no matte of the look` }];
    if (!matteWithCentre(look, at) && !path.endsWith(PLACED)) {
      const why =
        "whose middle is measured in the picture: only a placement's position can follow it";
      return [{ path, message: `names "${at}", ${why}` }];
    }
    const way = centresFrom(look, at);
    if (new Set(way).size < way.length)
      return [{ path, message: 'lies at the middle of a matte that leads back to itself' }];
    const wrong = p.kind === 'ellipse' ? unsuited(p, shape) : undefined;
    return wrong ? [{ path: `${path}.shape`, message: wrong }] : [];
  },
  resolve: (s, _, { middleOf }) => shaped(s.shape, middleOf(s.centre)),
  pruned: (s, look) => (matteAt(look, s.centre) ? s : inTheMiddle(s.shape)),
  words: () => 'at the middle of a matte',
});
