/** Formats of deliveries: id, name and use. */
export const FORMATS = [
  ['mp4', 'MP4, H.264', '8 or 10 bit, for viewing'],
  ['mkv', 'Matroska, FFV1', '16 bit RGB, lossless'],
  ['webm', 'WebM, VP9', '8 or 10 bit, for pages'],
  ['png', 'PNG frames', '16 bit, as an archive'],
] as const;
