import { followed, hasCycle, offsetFrom } from '../following';
import { binding, object, type Schema } from './declare';

const PATH: Schema = {
  type: 'string',
  description: 'layer/step/parameter of the look, of the same kind',
};
const isOffset = (v: unknown): boolean =>
  v === undefined || (typeof v === 'number' && Math.abs(v) <= 1e5);

/** Another number or colour of the look, plus an offset. */
export const link = binding<'follows'>({
  id: 'follows',
  isWithinLook: true,
  schemas(p) {
    if (p.kind === 'number')
      return [object({ follows: PATH, offset: { type: 'number' } }, ['follows'])];
    if (p.kind !== 'colour') return [];
    const hue = { type: 'number', description: 'degrees' };
    return [object({ follows: PATH, shade: { type: 'number' }, hue }, ['follows'])];
  },
  faults(s, p, path, { look }) {
    const target = typeof s.follows === 'string' ? followed(look, s.follows) : undefined;
    if (!target)
      return [{ path, message: `follows "${String(s.follows)}", which the look does not have` }];
    if (target.parameter.kind !== p.kind || (p.kind !== 'number' && p.kind !== 'colour'))
      return [{ path, message: `a ${p.kind} cannot follow a ${target.parameter.kind}` }];
    if (hasCycle(look, s.follows)) return [{ path, message: 'follows what follows it' }];
    return [s.offset, s.shade, s.hue].every(isOffset)
      ? []
      : [{ path, message: 'offset, shade and hue are numbers' }];
  },
  resolve(s, look, { at, valueOf }) {
    const target = followed(look, s.follows);
    return target
      ? offsetFrom(at.moved(s.follows, target.parameter, valueOf(target.setting)), s)
      : 0;
  },
  pruned: (s, look) => (followed(look, s.follows) ? s : undefined),
  words: () => 'following another',
});
