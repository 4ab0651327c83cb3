/**
 * Looks on their way to the engine worker: each crosses once and is named afterwards, so that the
 * worker plans with the same object and keeps what it has planned (decision 043).
 */
import type { LookDocument } from '../../core';
import type { ToEngine } from './protocol';

/** Looks that the worker keeps; the one not named for longest goes first. */
const MOST = 64;

/** A message with looks by name: those that are new to the other side, and those that it may drop. */
export interface Sent {
  readonly message: unknown;
  readonly looks: readonly (readonly [number, LookDocument])[];
  readonly dropped: readonly number[];
}
interface Named {
  readonly lookNamed: number;
}
const isObject = (v: unknown): v is object => typeof v === 'object' && v !== null;
const isLook = (v: object): v is LookDocument => 'schema' in v && 'layers' in v && 'dials' in v;
const isNamed = (v: object): v is Named => 'lookNamed' in v;

/** A message with some of its objects replaced; others, and lists of numbers, stay as they are. */
function replaced(value: unknown, replace: (v: object) => object | undefined): unknown {
  if (!isObject(value)) return value;
  const other = replace(value);
  if (other) return other;
  if (Array.isArray(value))
    return value.some(isObject) ? value.map((v) => replaced(v, replace)) : value;
  if (Object.getPrototypeOf(value) !== Object.prototype) return value;
  return Object.fromEntries(Object.entries(value).map(([k, v]) => [k, replaced(v, replace)]));
}

/** The page's side. */
export class LooksSent {
  /** Names by look, those named last at the end. */
  private readonly names = new Map<LookDocument, number>();
  private next = 0;

  /** A message as it is sent. */
  sent(message: ToEngine): Sent {
    // Clips carry no looks, and much else.
    if (message.kind === 'setup') return { message, looks: [], dropped: [] };
    const looks: [number, LookDocument][] = [];
    const named = replaced(message, (v) => {
      if (!isLook(v)) return undefined;
      const known = this.names.get(v);
      const name = known ?? this.next++;
      if (known === undefined) looks.push([name, v]);
      this.names.delete(v);
      this.names.set(v, name);
      return { lookNamed: name };
    });
    const dropped: number[] = [];
    for (const [look, name] of this.names) {
      // What this message names is needed until it has arrived.
      if (this.names.size <= Math.max(MOST, looks.length)) break;
      this.names.delete(look);
      dropped.push(name);
    }
    return { message: named, looks, dropped };
  }
  /** The other side has begun anew and has none. */
  clear(): void {
    this.names.clear();
  }
}

/** The worker's side. */
export class LooksReceived {
  private readonly looks = new Map<number, LookDocument>();

  /** The message as it was before it was sent. Throws if it names a look that never came. */
  received({ message, looks, dropped }: Sent): ToEngine {
    for (const [name, look] of looks) this.looks.set(name, look);
    const whole = replaced(message, (v) => {
      if (!isNamed(v)) return undefined;
      const look = this.looks.get(v.lookNamed);
      if (!look) throw new Error(`look ${v.lookNamed} has not come`);
      return look;
    });
    for (const name of dropped) this.looks.delete(name);
    return whole as ToEngine;
  }
}
