/**
 * File formats shared with other programs: `.cube` tables, ASC CDL lists, CLF process lists.
 * Parsers return what they read, or the first fault with its line. They never throw.
 */
export { MOST_BYTES, type Parsed, inOneLine } from './parsed';
export { parseCube, writeCube } from './cube-file';
export { type Cdl, parseCdl, writeCdl, type CdlKind } from './cdl-file';
export { type Process, parseClf } from './clf-file';
export { bake, type Baked, notBakeable } from './bake';
export { isCard, readCard, writeCard } from './look-card';
export {
  isPackage,
  isPng,
  type LookPackage,
  PACKAGE_ENDING,
  type PackedPlate,
  readPackage,
  type Thumbnail,
  writePackage,
} from './look-package';
export { lutFromFile } from './lut-file';
