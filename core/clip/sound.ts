/**
 * What a video leaves out of a clip's sound, with the reason; undefined if nothing. `tracks`: how
 * many the footage has.
 */
export const soundLeftOut = (tracks: number): string | undefined =>
  tracks > 1
    ? `of ${tracks} tracks of sound the first is taken: the others are left out`
    : undefined;
