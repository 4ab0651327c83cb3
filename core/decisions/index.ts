/** What people decide about clips, declared once, and the key of what pictures depend on. */
export {
  type AcceptedFlags,
  type ClipDecisions,
  type Changes,
  decided,
  type Decision,
  type DecisionId,
  DECISION_IDS,
  DECISIONS,
  decisionsOf,
  mayBeNone,
  type PictureDecisions,
  pictureOf,
  type ShownDecisions,
  shownOf,
  type TrimsByLook,
} from './decisions';
export { IsDialValues, MOST_CHANCE, RetimeNumbers } from './checks';
export { canonical, type PinnedFootage, type Subject, subjectKey } from './subject';
