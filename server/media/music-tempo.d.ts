declare module 'music-tempo' {
  /** Tempo and beats of mono samples at 44,100 a second. Throws if nothing is found. */
  export default class MusicTempo {
    constructor(
      samples: ArrayLike<number>,
      options?: { readonly minBeatInterval?: number; readonly maxBeatInterval?: number },
    );
    readonly tempo: number | string;
    /** In seconds. */
    readonly beats: readonly number[];
  }
}
