/** What tiles show: the clip as it came, with its balance, or under its look. */
export const STAGES = [
  ['shot', 'as shot'],
  ['balanced', 'balanced'],
  ['look', 'look'],
] as const;
export type Stage = (typeof STAGES)[number][0];
/** The view that a clip's traits at a stage come with. */
export const traitView = (stage: Stage, clip: string): string => `traits:${stage}:${clip}`;
