/** All kinds of movers except keys. A new one is a file and a line here. */
import { blink } from './blink';
import type { MoverKind } from './declare';
import { drift } from './drift';
import { flicker } from './flicker';
import { jump } from './jump';
import { pulse } from './pulse';
import { ramp } from './ramp';
import { shake } from './shake';
import { strobe } from './strobe';
import { wave } from './wave';

/** All kinds of movers, in the order of the menu. */
export const MOVERS: readonly MoverKind[] = [
  flicker,
  blink,
  strobe,
  drift,
  shake,
  jump,
  wave,
  ramp,
  pulse,
];
const byId = new Map(MOVERS.map((m) => [m.id, m]));
/** The kind with this id. */
export const moverOf = (id: string): MoverKind | undefined => byId.get(id);
export type { MoverContext, MoverKind } from './declare';
