/** Every kind of mover but keys; adding one is its file and its line here. */
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
export const moverOf = (id: string): MoverKind | undefined => byId.get(id);
export type { MoverContext, MoverKind } from './declare';
