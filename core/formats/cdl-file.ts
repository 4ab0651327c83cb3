/**
 * ASC Color Decision Lists, 1.2: one correction (`.cc`), a collection (`.ccc`) or a list of
 * decisions (`.cdl`).
 */
import type { Colour } from '../parameters';
import { fault, type FormatFault, numberOf, type Parsed, shortest } from './parsed';
import { childOf, type Element, readXml } from './xml';

/** One correction of a list. */
export interface Cdl {
  readonly id: string;
  readonly slope: Colour;
  readonly offset: Colour;
  readonly power: Colour;
  readonly saturation: number;
}
/** The kinds of file: one correction, a collection, or a decision list. */
export type CdlKind = 'cc' | 'ccc' | 'cdl';

const NAMESPACE = 'urn:ASC:CDL:v1.01';
const MOST_WORDS = 200_000;

class Wrong extends Error {
  constructor(readonly at: FormatFault) {
    super(at.message);
  }
}

function numbers(
  e: Element | undefined,
  count: number,
  least: number,
  standard: readonly number[],
): readonly number[] {
  if (!e) return standard;
  const found = e.words.map(numberOf);
  if (found.length !== count || found.some((v) => v === undefined))
    throw new Wrong({
      line: e.line,
      message: `${e.name} needs ${count === 1 ? 'one number' : 'three numbers'}`,
    });
  const low = found.find((v) => v! < least);
  if (low !== undefined)
    throw new Wrong({
      line: e.line,
      message: `${e.name} must not be below ${least}, it is ${low}`,
    });
  return found as number[];
}

function correction(e: Element, index: number): Cdl {
  const sop = childOf(e, 'SOPNode') ?? childOf(e, 'SopNode'),
    sat = childOf(e, 'SatNode') ?? childOf(e, 'SATNode');
  const of = (name: string, least: number, standard: number) =>
    numbers(sop && childOf(sop, name), 3, least, [
      standard,
      standard,
      standard,
    ]) as unknown as Colour;
  return {
    id: e.attributes['id'] ?? `correction-${index + 1}`,
    slope: of('Slope', 0, 1),
    offset: of('Offset', -Infinity, 0),
    power: of('Power', 1e-6, 1),
    saturation: numbers(sat && childOf(sat, 'Saturation'), 1, 0, [1])[0]!,
  };
}

const corrections = (e: Element): Element[] =>
  e.name === 'ColorCorrection' ? [e] : e.children.flatMap(corrections);

/** Reads any of the three kinds: at least one correction, in the file's order. */
export function parseCdl(text: string): Parsed<Cdl[]> {
  const read = readXml(text, MOST_WORDS);
  if ('fault' in read) return read;
  const root = read.value;
  /** Reads any of the three kinds: one correction at least, in the file's order. */
  if (!['ColorCorrection', 'ColorCorrectionCollection', 'ColorDecisionList'].includes(root.name))
    return fault(
      root.line,
      `"${root.name.slice(0, 40)}" is not the root of a colour decision list`,
    );
  const found = corrections(root);
  if (found.length === 0) return fault(root.line, 'the list holds no ColorCorrection');
  try {
    return { value: found.map(correction) };
  } catch (e) {
    if (e instanceof Wrong) return { fault: e.at };
    throw e;
  }
}

const escaped = (s: string): string => s.replace(/[<>&"']/g, (c) => `&#${c.charCodeAt(0)};`);

function written(c: Cdl, space: string, namespace = ''): string {
  const three = (name: string, v: Colour) =>
    `${space}    <${name}>${v.map(shortest).join(' ')}</${name}>`;
  return [
    `${space}<ColorCorrection id="${escaped(c.id)}"${namespace}>`,
    `${space}  <SOPNode>`,
    three('Slope', c.slope),
    three('Offset', c.offset),
    three('Power', c.power),
    `${space}  </SOPNode>`,
    `${space}  <SatNode>`,
    `${space}    <Saturation>${shortest(c.saturation)}</Saturation>`,
    `${space}  </SatNode>`,
    `${space}</ColorCorrection>`,
  ].join('\n');
}

/** A file's text. A `.cc` holds only the first correction. */
export function writeCdl(kind: CdlKind, list: readonly Cdl[]): string {
  const ns = ` xmlns="${NAMESPACE}"`;
  const head = '<?xml version="1.0" encoding="UTF-8"?>';
  if (kind === 'cc') return `${head}\n${written(list[0]!, '', ns)}\n`;
  if (kind === 'ccc')
    return `${head}\n<ColorCorrectionCollection${ns}>\n${list.map((c) => written(c, '  ')).join('\n')}\n</ColorCorrectionCollection>\n`;
  const decisions = list
    .map((c) => `  <ColorDecision>\n${written(c, '    ')}\n  </ColorDecision>`)
    .join('\n');
  return `${head}\n<ColorDecisionList${ns}>\n${decisions}\n</ColorDecisionList>\n`;
}
