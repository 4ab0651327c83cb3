/** CRC-32 (ISO 3309), as PNG and zip have it. */
const TABLE = Int32Array.from({ length: 256 }, (_, n) => {
  let c = n;
  for (let k = 0; k < 8; k++) c = c & 1 ? (c >>> 1) ^ 0xedb88320 : c >>> 1;
  return c;
});

/** The CRC-32 of bytes. */
export function crc32(bytes: Uint8Array): number {
  let c = -1;
  for (const byte of bytes) c = TABLE[(c ^ byte) & 0xff]! ^ (c >>> 8);
  return ~c >>> 0;
}
