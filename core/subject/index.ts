/**
 * Subjects: cut out of footage by strokes on a few frames, carried to the others, with how sure that
 * is. Frames and motion in, mattes out; nothing here reads files.
 */
export { type Matte } from './edge';
export {
  isStroke,
  isSubjectMark,
  MOST_STROKES,
  painted,
  RADII,
  type Stroke,
  type SubjectGiven,
  type SubjectMark,
} from './strokes';
export { type MadeMatte, nextWorthAMark, subjectMattes, type SubjectSource } from './subject';
