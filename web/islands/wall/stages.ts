/** Stages that tiles show: as shot, balanced, or under the look. */
export const STAGES = [
  ['shot', 'as shot'],
  ['balanced', 'balanced'],
  ['look', 'look'],
] as const;
/** Id of a stage. */
export type Stage = (typeof STAGES)[number][0];
/** Id of the view that measures a clip's traits at a stage. */
export const traitView = (stage: Stage, clip: string): string => `traits:${stage}:${clip}`;
