/** Strokes: what a person paints on a frame to say what the subject is, and what it is not. */

/** A stroke of a round brush. */
export interface Stroke {
  /** Whether it lies on the subject; otherwise on what is not the subject. */
  readonly on: boolean;
  /** Radius of the brush, in shares of the picture's height. */
  readonly radius: number;
  /** Its way: x and y in turn, in shares of the picture. */
  readonly points: readonly number[];
}
/** Strokes on a frame of the footage. Later ones lie over earlier ones. */
export interface SubjectMark {
  readonly frame: number;
  readonly strokes: readonly Stroke[];
}
/** What a subject is made from. The first mark is where it begins; the others correct it. */
export interface SubjectGiven {
  readonly kind: 'subject';
  readonly marks: readonly SubjectMark[];
  /** Frames of the footage at which another shot begins. */
  readonly cuts: readonly number[];
}
/** Most strokes on a frame, and most numbers in the way of a stroke. */
export const MOST_STROKES = 200,
  MOST_POINTS = 4000;
/** Smallest and largest radius. */
export const RADII = [0.001, 0.5] as const;

/** Whether an object is a stroke with numbers that can be used. */
export function isStroke(v: unknown): v is Stroke {
  if (typeof v !== 'object' || v === null) return false;
  const { on, radius, points, ...rest } = v as Partial<Stroke>;
  return (
    Object.keys(rest).length === 0 &&
    typeof on === 'boolean' &&
    typeof radius === 'number' &&
    radius >= RADII[0] &&
    radius <= RADII[1] &&
    Array.isArray(points) &&
    points.length >= 2 &&
    points.length <= MOST_POINTS &&
    points.length % 2 === 0 &&
    points.every((p) => typeof p === 'number' && p >= -1 && p <= 2)
  );
}
/** Whether an object is a mark of a subject. */
export const isSubjectMark = (v: unknown): v is SubjectMark =>
  typeof v === 'object' &&
  v !== null &&
  Object.keys(v).every((k) => k === 'frame' || k === 'strokes') &&
  Number.isInteger((v as SubjectMark).frame) &&
  (v as SubjectMark).frame >= 0 &&
  Array.isArray((v as SubjectMark).strokes) &&
  (v as SubjectMark).strokes.length <= MOST_STROKES &&
  (v as SubjectMark).strokes.every(isStroke);

/** What was painted on a grid of pixels: 1 on the subject, −1 on what is not, 0 nowhere. */
export function painted(strokes: readonly Stroke[], width: number, height: number): Int8Array {
  const out = new Int8Array(width * height);
  for (const { on, radius, points } of strokes) {
    // A brush of less than a pixel paints one.
    const r = Math.max(0.75, radius * height);
    for (let i = 0; i < points.length; i += 2) {
      const j = Math.max(0, i - 2);
      const [ax, ay, bx, by] = [
        points[j]! * width - 0.5,
        points[j + 1]! * height - 0.5,
        points[i]! * width - 0.5,
        points[i + 1]! * height - 0.5,
      ];
      const [dx, dy] = [bx - ax, by - ay],
        long = dx * dx + dy * dy;
      const top = Math.max(0, Math.ceil(Math.min(ay, by) - r)),
        bottom = Math.min(height - 1, Math.floor(Math.max(ay, by) + r)),
        left = Math.max(0, Math.ceil(Math.min(ax, bx) - r)),
        right = Math.min(width - 1, Math.floor(Math.max(ax, bx) + r));
      for (let y = top; y <= bottom; y++)
        for (let x = left; x <= right; x++) {
          const share =
            long === 0 ? 0 : Math.max(0, Math.min(1, ((x - ax) * dx + (y - ay) * dy) / long));
          const [ex, ey] = [x - ax - share * dx, y - ay - share * dy];
          if (ex * ex + ey * ey <= r * r) out[y * width + x] = on ? 1 : -1;
        }
    }
  }
  return out;
}
