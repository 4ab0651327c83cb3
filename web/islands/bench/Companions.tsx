import type { ClipView, ProjectView } from '../../data/views';
import type { EngineClient } from '../../engine/client/client';
import { Picture } from '../../engine/client/Picture';

/** Companions per row. */
const A_ROW = 6;
/** Numbers of rows. */
export const ROWS = [0, 1, 2] as const;
/** One of `ROWS`. */
export type Rows = (typeof ROWS)[number];
/** Numbers of rows as text. */
export const ROW_WORDS: Record<Rows, string> = { 0: 'none', 1: 'one row', 2: 'two rows' };
/** Whether a value is a number of rows. */
export const isRows = (v: unknown): v is Rows => ROWS.includes(v as Rows);

/**
 * Companions for a number of rows: the clips after the hero in the project's order, then those
 * before.
 */
export function pickCompanions(clips: readonly ClipView[], hero: ClipView, rows: Rows): ClipView[] {
  const at = clips.findIndex((c) => c.id === hero.id);
  return [...clips.slice(at + 1), ...clips.slice(0, Math.max(0, at))].slice(0, A_ROW * rows);
}

/** Companions: other clips under the look, small. A click makes one the hero. */
export function Companions({
  engine,
  clips,
  project,
  onHero,
}: {
  engine: EngineClient;
  clips: readonly ClipView[];
  project: ProjectView;
  onHero: (id: string) => void;
}) {
  if (clips.length === 0) return null;
  return (
    <ul
      aria-label="Companions"
      className="flex-none grid grid-cols-6 gap-1.5 p-2 border-t line bg-base-200 isolate"
    >
      {clips.map((c) => (
        <li key={c.id}>
          <button
            className="block w-full text-left"
            title={`Make ${c.name} the hero`}
            onClick={() => onHero(c.id)}
          >
            <span
              className="block bg-base-300"
              style={{ aspectRatio: `${project.width}/${project.height}` }}
            >
              <Picture
                engine={engine}
                view={`companion:${c.id}`}
                label={`${c.name} under the look`}
                className="w-full h-full object-contain"
              />
            </span>
            <span className="block truncate pt-0.5 quiet">{c.name}</span>
          </button>
        </li>
      ))}
    </ul>
  );
}
