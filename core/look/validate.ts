/** Reads a look document from anything: either a valid document or what is wrong with it, place by place. */
import { plainToInstance } from 'class-transformer';
import { type ValidationError, validateSync } from 'class-validator';
import { type Parameter, type Step, stepOf, STEPS } from '../steps';
import { isCube } from '../steps/cube';
import { type Dial, LookDocument, type PinAsk, type Setting, STRENGTH } from './document';

/** What is wrong, where (a path such as `layers[0].steps[1].step`), in words that say what to do. */
export interface Fault {
  readonly path: string;
  readonly message: string;
}
export type Read = { readonly look: LookDocument } | { readonly faults: readonly Fault[] };

/** The validator puts the property's name first; the path says it already. */
const plainWords = (message: string, property: string): string => (message.startsWith(`${property} `) ? message.slice(property.length + 1) : message);

function flatten(errors: readonly ValidationError[], at = ''): Fault[] {
  return errors.flatMap((e) => {
    const path = /^\d+$/.test(e.property) ? `${at}[${e.property}]` : at ? `${at}.${e.property}` : e.property;
    const own = Object.values(e.constraints ?? {}).map((message) => ({ path, message: plainWords(message, e.property) }));
    return [...own, ...flatten(e.children ?? [], path)];
  });
}

const isColour = (v: unknown): boolean =>
  Array.isArray(v) && v.length === 3 && v.every((x) => typeof x === 'number' && Number.isFinite(x) && x >= -1 && x <= 16);
const isCurve = (v: unknown): boolean =>
  Array.isArray(v) &&
  v.length >= 1 &&
  v.length <= 32 &&
  v.every(
    (p, i) =>
      Array.isArray(p) &&
      p.length === 2 &&
      p.every((x) => typeof x === 'number' && Number.isFinite(x)) &&
      (i === 0 || p[0] > (v[i - 1] as number[])[0]!),
  );

/** Undefined when a constant suits a parameter. */
export function unsuited(p: Parameter, v: unknown): string | undefined {
  switch (p.kind) {
    case 'number':
      return typeof v === 'number' && v >= p.min && v <= p.max ? undefined : `must be a number from ${p.min} to ${p.max}`;
    case 'switch':
      return typeof v === 'boolean' ? undefined : 'must be true or false';
    case 'colour':
      return isColour(v) ? undefined : 'must be three numbers: red, green, blue';
    case 'choice':
      return p.options.some((o) => o.id === v) ? undefined : `must be one of ${p.options.map((o) => o.id).join(', ')}`;
    case 'curve':
      return isCurve(v) ? undefined : 'must be 1 to 32 points [x, y] with rising x';
    case 'point':
      return Array.isArray(v) && v.length === 2 && v.every((x) => typeof x === 'number' && x >= -4 && x <= 5)
        ? undefined
        : 'must be two shares of the frame: across and down';
    case 'cube':
      return v === null || isCube(v) ? undefined : 'must be a whole table as a LUT file gives it, or null';
  }
}

const SHARE: Parameter = { kind: 'number', id: 'share', label: 'Share', unit: '%', min: 0, max: 100, default: 100 };

/** What settings may name. */
interface Named {
  readonly dials: ReadonlyMap<string, Dial>;
  readonly pins: ReadonlyMap<string, PinAsk>;
}

function settingFaults(path: string, p: Parameter, s: Setting | undefined, { dials, pins }: Named): Fault[] {
  if (s === null || typeof s !== 'object' || !('value' in s || 'dial' in s || 'pin' in s))
    return [{ path, message: 'must be { "value": … }, { "dial": … } or { "pin": … }' }];
  if ('value' in s) {
    const message = unsuited(p, s.value);
    return message ? [{ path, message }] : [];
  }
  if ('pin' in s) {
    const pin = pins.get(s.pin);
    if (!pin) return [{ path, message: `names the pin "${s.pin}", which the look does not ask for` }];
    return pin.kind === p.kind ? [] : [{ path, message: `a ${pin.kind} pin cannot set a ${p.kind}` }];
  }
  const dial = dials.get(s.dial);
  if (!dial) return [{ path, message: `names the dial "${s.dial}", which the look does not have` }];
  if (dial.kind !== p.kind) return [{ path, message: `a ${dial.kind} dial cannot drive a ${p.kind}` }];
  if (p.kind !== 'number') return [];
  return (['from', 'to'] as const).flatMap((end) => {
    const message = unsuited(p, s[end]);
    return message ? [{ path: `${path}.${end}`, message }] : [];
  });
}

function stepFaults(path: string, step: Step | undefined, id: string, parameters: Record<string, Setting>, named: Named): Fault[] {
  if (!step) return [{ path: `${path}.step`, message: `there is no step "${id}"; the steps are ${STEPS.map((s) => s.id).join(', ')}` }];
  return Object.entries(parameters).flatMap(([id2, s]) => {
    const p = step.parameters.find((q) => q.id === id2);
    return p
      ? settingFaults(`${path}.parameters.${id2}`, p, s, named)
      : [
          {
            path: `${path}.parameters.${id2}`,
            message: `${step.id} has no parameter "${id2}"; it has ${step.parameters.map((q) => q.id).join(', ')}`,
          },
        ];
  });
}

function dialFaults(d: Dial, path: string): Fault[] {
  if (d.goal && d.kind !== 'number') return [{ path: `${path}.goal`, message: 'only a number dial can have a goal' }];
  if (d.kind === 'switch') return typeof d.value === 'boolean' ? [] : [{ path, message: 'a switch is true or false' }];
  if (d.kind === 'colour') return isColour(d.value) ? [] : [{ path, message: 'a colour is three numbers' }];
  if (d.min === undefined || d.max === undefined || d.min >= d.max) return [{ path, message: 'a number dial needs min below max' }];
  return typeof d.value === 'number' && d.value >= d.min && d.value <= d.max
    ? []
    : [{ path: `${path}.value`, message: `must be a number from ${d.min} to ${d.max}` }];
}

function repeated(keys: readonly string[], path: (i: number) => string): Fault[] {
  return keys.flatMap((k, i) => (keys.indexOf(k) < i ? [{ path: path(i), message: `the key "${k}" is used twice` }] : []));
}

function meaningFaults(look: LookDocument): Fault[] {
  const dials = new Map(look.dials.map((d) => [d.key, d]));
  const pins = look.pins ?? [];
  const named = { dials, pins: new Map(pins.map((p) => [p.key, p])) };
  const strength = dials.get(STRENGTH);
  return [
    ...(strength?.kind === 'number' && strength.min === 0 && strength.max === 100
      ? []
      : [{ path: 'dials', message: 'a look has a number dial "strength" from 0 to 100' }]),
    ...repeated(
      look.dials.map((d) => d.key),
      (i) => `dials[${i}].key`,
    ),
    ...repeated(
      pins.map((p) => p.key),
      (i) => `pins[${i}].key`,
    ),
    ...repeated(
      look.layers.map((l) => l.key),
      (i) => `layers[${i}].key`,
    ),
    ...look.dials.flatMap((d, i) => dialFaults(d, `dials[${i}]`)),
    ...look.layers.flatMap((l, i) => [
      ...settingFaults(`layers[${i}].opacity`, SHARE, l.opacity, named),
      ...repeated(
        l.steps.map((s) => s.key),
        (k) => `layers[${i}].steps[${k}].key`,
      ),
      ...l.steps.flatMap((s, k) => [
        ...settingFaults(`layers[${i}].steps[${k}].mix`, SHARE, s.mix, named),
        ...stepFaults(`layers[${i}].steps[${k}]`, stepOf(s.step), s.step, s.parameters, named),
      ]),
    ]),
  ];
}

/** A look from parsed JSON. Never throws. */
export function readLook(json: unknown): Read {
  if (json === null || typeof json !== 'object' || Array.isArray(json)) return { faults: [{ path: '', message: 'a look is a JSON object' }] };
  const look = plainToInstance(LookDocument, json);
  const shape = flatten(validateSync(look, { whitelist: true, forbidNonWhitelisted: true, forbidUnknownValues: true }));
  if (shape.length > 0) return { faults: shape };
  const faults = meaningFaults(look);
  return faults.length > 0 ? { faults } : { look: JSON.parse(JSON.stringify(look)) as LookDocument };
}

/** Faults in one line. */
export const inWords = (faults: readonly Fault[]): string =>
  faults
    .slice(0, 3)
    .map((f) => (f.path ? `${f.path} ${f.message}` : f.message))
    .join('; ') + (faults.length > 3 ? ` (and ${faults.length - 3} more)` : '');
