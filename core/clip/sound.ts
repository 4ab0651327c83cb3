/**
 * What a video leaves out of a clip's sound, with the reason; undefined if nothing. `tracks`: how
 * many the footage has.
 */
export function soundLeftOut(tracks: number, retimed: boolean): string | undefined {
  if (tracks === 0) return undefined;
  // Sound of retimed clips is not supported yet.
  if (retimed) return 'the sound is left out: the clip plays at another speed';
  return tracks > 1
    ? `of ${tracks} tracks of sound the first is taken: the others are left out`
    : undefined;
}
