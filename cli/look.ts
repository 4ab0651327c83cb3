/** The look that the command line renders: a shipped one, a file, or steps given as options. */
import { readFileSync, statSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { resolve } from 'node:path';
import {
  type DialValues,
  type DialValue,
  edit,
  emptyLook,
  inWords,
  type LookDocument,
  type LutValue,
  type ParameterValue,
  type Parameter,
  parseValue,
  readLook,
  SHIPPED,
  shippedLook,
  stepOf,
  STEPS,
  unsuited,
} from '../core';
import {
  inOneLine,
  isPackage,
  isPng,
  lutFromFile,
  MOST_BYTES,
  readCard,
  readPackage,
} from '../core/formats';
import type { Option } from 'commander';
import { one, Usage, value, type Words } from './args';

/** Options that choose a look and set its dials. */
export const LOOK_OPTIONS: readonly Option[] = [
  value('look', 'name', 'a shipped look, or a file of a look, a package or a card'),
  value('step', 'words', 'instead of a look: "<id> <parameter>=<value> …", any number of times'),
  value('dial', 'name=value', 'where a dial stands, any number of times'),
  value('seed', 'n', 'of its chance'),
];
/** Options for pins. */
export const PIN_OPTIONS: readonly Option[] = [
  value('pin', 'name=place', 'x,y in per cent, a cue’s frame, a file; any number of times'),
  value('plate', 'name=file', 'a plate as the footage of a pin, any number of times'),
];

/** The table of a LUT step from a file. */
function lutAt(path: string): LutValue {
  let size: number;
  try {
    size = statSync(path).size;
  } catch {
    throw new Usage(`there is no file "${path}" for lut`);
  }
  if (size > MOST_BYTES)
    throw new Usage(
      `${path} is larger than ${MOST_BYTES / 2 ** 20} MiB: no LUT that can be read is`,
    );
  const read = lutFromFile(path, readFileSync(path, 'utf8'));
  if ('fault' in read) throw new Usage(inOneLine(path, read.fault));
  return read.value;
}

function withStep(look: LookDocument, words: string): LookDocument {
  const [id, ...pairs] = words.trim().split(/\s+/);
  const step = stepOf(id!);
  if (!step)
    throw new Usage(`there is no step "${id}"; the steps are ${STEPS.map((s) => s.id).join(', ')}`);
  const layer = look.layers[0]!;
  let next = edit.addStep(look, layer.key, edit.newStep(step, []));
  const key = next.layers[0]!.steps.at(-1)!.key;
  for (const pair of pairs) {
    const [name, text] = pair.split(/=(.*)/s) as [string, string | undefined];
    if (text === undefined) throw new Usage(`"${pair}" in --step must be parameter=value`);
    if (name === 'mix') {
      const mix = Number(text);
      if (!(mix >= 0 && mix <= 100)) throw new Usage(`mix must be a number from 0 to 100`);
      next = edit.changeStep(next, layer.key, key, { mix: { value: mix } });
      continue;
    }
    const p = step.parameters.find((q) => q.id === name);
    if (!p)
      throw new Usage(
        `${step.id} has no parameter "${name}"; it has ${step.parameters.map((q) => q.id).join(', ')}`,
      );
    const value = parseValue(p, text, { lut: lutAt });
    const wrong = unsuited(p, value);
    if (wrong) throw new Usage(`${step.id} ${name} ${wrong}`);
    next = edit.setConstant(next, layer.key, key, name, value as ParameterValue);
  }
  return next;
}

/** A look by its name: a shipped one, or a file whose path counts from a folder. Throws `Usage`. */
export const lookNamed = (name: string, folder: string): Promise<LookDocument> =>
  named(shippedLook(name) ? name : resolve(folder, name));

async function named(name: string): Promise<LookDocument> {
  const shipped = shippedLook(name);
  if (shipped) return shipped;
  const bytes = await readFile(name).catch(() => undefined);
  if (bytes === undefined)
    throw new Usage(
      `there is no look "${name}": name a shipped one (${SHIPPED.map((s) => s.id).join(', ')}) or a look file`,
    );
  if (isPackage(bytes) || isPng(bytes)) {
    const opened = isPng(bytes) ? readCard(bytes, name) : readPackage(bytes);
    if ('fault' in opened) throw new Usage(`"${name}": ${opened.fault.message}`);
    return opened.value.look;
  }
  let json: unknown;
  try {
    json = JSON.parse(bytes.toString('utf8'));
  } catch (e) {
    throw new Usage(`"${name}" is not JSON: ${(e as Error).message}`);
  }
  const read = readLook(json);
  if ('faults' in read)
    throw new Usage(`"${name}" is not a look that can be used: ${inWords(read.faults)}`);
  return read.look;
}

/** The requested look and dial values. Throws `Usage`. */
export async function lookFrom(w: Words): Promise<{ look: LookDocument; dials: DialValues }> {
  const name = one(w, 'look'),
    steps = w.flags.get('step') ?? [];
  if ((name === undefined) === (steps.length === 0))
    throw new Usage('give either --look or one or more --step');
  let look =
    name !== undefined
      ? await named(name)
      : steps.reduce(withStep, {
          ...emptyLook('On the spot'),
          bedrock: false,
          layers: [edit.newLayer('steps', 'clip', [])],
        });
  const seed = one(w, 'seed');
  if (seed !== undefined) {
    if (!/^\d+$/.test(seed) || Number(seed) > 0xffffffff)
      throw new Usage('--seed must be a whole number from 0 to 4294967295');
    look = { ...look, seed: Number(seed) };
  }
  const dials: Record<string, DialValue> = {};
  for (const pair of w.flags.get('dial') ?? []) {
    const [key, text = ''] = pair.split(/=(.*)/s) as [string, string | undefined];
    const dial = look.dials.find((d) => d.key === key);
    if (!dial)
      throw new Usage(
        `the look has no dial "${key}"; it has ${look.dials.map((d) => d.key).join(', ')}`,
      );
    const p: Parameter =
      dial.kind === 'number'
        ? {
            kind: 'number',
            id: key,
            label: key,
            unit: '',
            min: dial.min!,
            max: dial.max!,
            default: 0,
          }
        : dial.kind === 'colour'
          ? { kind: 'colour', id: key, label: key, default: [0, 0, 0] }
          : { kind: 'switch', id: key, label: key, default: false };
    const value = parseValue(p, text, { lut: lutAt }),
      wrong = unsuited(p, value);
    if (wrong) throw new Usage(`the dial "${key}" ${wrong}`);
    dials[key] = value as DialValue;
  }
  return { look, dials };
}
