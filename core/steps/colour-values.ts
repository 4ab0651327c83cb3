import { SRGB_DECODE } from '../image/encodings';
import type { Colour } from './declare';

/** A colour as documents keep it (encoded) in linear light. */
export const linearColour = (c: Colour): [number, number, number] => c.map((v) => SRGB_DECODE.fn(v)) as [number, number, number];
