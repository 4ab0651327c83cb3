/**
 * Look packages: one file (a zip) with all that a look needs elsewhere.
 *
 *   about.json        { "package": 1, "name", "version" }: `version` is the number it had where it was made, for people to read
 *   look.json         the look document, its tables of colours within it (docs/look.schema.json describes it)
 *   thumbnails/*.png  pictures of it; the file's name says of what
 *   plates/PIN/FILE   footage that its pins of that key named where it was made, as files of their own (only when asked)
 */
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import { inWords, type LookDocument, readLook } from '../look';
import { damagedFile } from './zip-sums';
import { fault, MOST_BYTES, type Parsed } from './parsed';

/** File name extension of look packages. */
export const PACKAGE_ENDING = '.wabisabi';
const PACKAGE = 1,
  MOST_THUMBNAILS = 12;

/** A picture of a look, as a PNG file. */
export interface Thumbnail {
  readonly name: string;
  readonly png: Uint8Array;
}
/** Footage that a pin names, as a file. */
export interface PackedPlate {
  readonly pin: string;
  readonly name: string;
  readonly bytes: Uint8Array;
}
/** What a look package holds. */
export interface LookPackage {
  readonly look: LookDocument;
  readonly version: number;
  readonly thumbnails: readonly Thumbnail[];
  readonly plates?: readonly PackedPlate[];
}

const PNG = [0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a];
/** Whether the bytes begin with the signature of PNG. */
export const isPng = (b: Uint8Array): boolean => PNG.every((v, i) => b[i] === v);
/** Whether the bytes begin with the signature of zip. */
export const isPackage = (b: Uint8Array): boolean =>
  b[0] === 0x50 && b[1] === 0x4b && b[2] === 3 && b[3] === 4;

/** A file name that cannot leave its folder. */
const inFolder = (name: string): string => name.replace(/[/\\\0]/g, '-');

/** The package's bytes. The same package always gives the same bytes. */
export function writePackage({ look, version, thumbnails, plates = [] }: LookPackage): Uint8Array {
  const about = { package: PACKAGE, name: look.name, version };
  const pictures = thumbnails
    .slice(0, MOST_THUMBNAILS)
    .map((t, i) => [`${i + 1} ${t.name.replace(/[^\p{L}\p{N} _-]/gu, '')}.png`, t.png] as const);
  const json = (v: unknown) => strToU8(`${JSON.stringify(v, null, 2)}\n`);
  return zipSync(
    {
      'about.json': json(about),
      'look.json': json(look),
      thumbnails: Object.fromEntries(
        pictures.map(([name, png]) => [name, [png, { level: 0 as const }]]),
      ),
      ...Object.fromEntries(
        plates.map((p) => [
          `plates/${p.pin}/${inFolder(p.name)}`,
          [p.bytes, { level: 0 as const }],
        ]),
      ),
    },
    { mtime: '1980-01-01T12:00:00' },
  );
}

/** Reads a package; unknown entries are ignored. Never throws. */
export function readPackage(bytes: Uint8Array): Parsed<LookPackage> {
  if (!isPackage(bytes))
    return fault(1, 'this is no look package: it does not begin as a zip does');
  let files: Record<string, Uint8Array>;
  let size = 0;
  try {
    files = unzipSync(bytes, {
      filter: (f) => {
        size += f.originalSize;
        return (
          size <= MOST_BYTES &&
          /^(about\.json|look\.json|thumbnails\/[^/]+\.png|plates\/[^/]+\/[^/]+)$/.test(f.name)
        );
      },
    });
  } catch (e) {
    return fault(1, `the package is damaged: ${(e as Error).message}`);
  }
  if (size > MOST_BYTES)
    return fault(1, `the package holds more than ${MOST_BYTES / 2 ** 20} MiB: no look does`);
  const damaged = damagedFile(bytes, files);
  if (damaged)
    return fault(1, `the package is damaged: ${damaged} is not what was packed; copy it again`);
  const json = (name: string): unknown => {
    try {
      return files[name] && JSON.parse(strFromU8(files[name]));
    } catch {
      return undefined;
    }
  };
  const about = json('about.json') as { package?: unknown; version?: unknown } | undefined;
  if (about?.package !== PACKAGE)
    return fault(
      1,
      `about.json is missing, or says another package than ${PACKAGE}: this version of the application reads no other`,
    );
  const plain = json('look.json');
  if (plain === undefined) return fault(1, 'look.json is missing or is not JSON');
  const read = readLook(plain);
  if ('faults' in read) return fault(1, `its look cannot be used: ${inWords(read.faults)}`);
  const thumbnails = Object.entries(files)
    .filter(([name, png]) => name.startsWith('thumbnails/') && isPng(png))
    .slice(0, MOST_THUMBNAILS)
    .map(([name, png]) => ({
      name: name.slice('thumbnails/'.length, -'.png'.length).replace(/^\d+ /, ''),
      png,
    }));
  const version =
    typeof about.version === 'number' && Number.isInteger(about.version) ? about.version : 1;
  const plates = Object.entries(files).flatMap(([path, bytes]): PackedPlate[] => {
    const [folder, pin, name] = path.split('/');
    const asked = read.look.pins?.some((p) => p.key === pin && p.kind === 'footage') ?? false;
    return folder === 'plates' && asked && name ? [{ pin: pin!, name, bytes }] : [];
  });
  return { value: { look: read.look, version, thumbnails, ...(plates.length > 0 && { plates }) } };
}
