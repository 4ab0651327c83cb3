import type { LookView, ProjectView, ReferenceView } from '../../data/views';
import { Away, type AwayFrom } from '../../data/queries';
import { Head } from '../../components/Head';
import { Compare } from './Compare';
import type { Comparison } from './comparison';
import { useBench } from './context';
import { History } from './History';
import type { Scopes } from './useScopes';
import { isUnsaved } from './store';
import type { Sheet } from './useTrials';
import { Finder } from '../../components/Finder';
import { LookPictures } from './LookPictures';

interface Props {
  readonly project: ProjectView;
  readonly looks: readonly LookView[];
  readonly references: readonly ReferenceView[];
  readonly comparing: Comparison;
  readonly scopes: Scopes;
  readonly sheet: Sheet;
  readonly away: AwayFrom | null;
  /** *Before* is pressed or released. */
  readonly onBefore: (held: boolean) => void;
  readonly onKeep: () => void;
  /** Number of a version that somebody else saved; undefined if the look was removed. */
  readonly overtaken: { readonly newest: number | undefined } | null;
  readonly onOvertaken: () => void;
  readonly onSave: () => void;
  readonly onVersions: () => void;
  readonly onHelp: () => void;
  readonly onTrouble: (text: string) => void;
}

const Bar = () => <span className="w-px h-5 bg-current opacity-15" />;

/** The Bench's header: what is open, undo, comparison, drawers, saving. */
export function BenchHead({
  project,
  looks,
  references,
  comparing,
  scopes,
  sheet,
  away,
  onBefore,
  onKeep,
  overtaken,
  onOvertaken,
  onSave,
  onVersions,
  onHelp,
  onTrouble,
}: Props) {
  const name = useBench((s) => s.still.name),
    opened = useBench((s) => s.opened),
    unsaved = useBench(isUnsaved);
  return (
    <Head
      title={
        <>
          {project.name} <span className="quiet font-normal">·</span>{' '}
          <span data-testid="look-name">{name}</span>{' '}
          <button
            className="num quiet hover:underline"
            data-testid="version"
            title="Its versions, and what changed between them"
            onClick={onVersions}
          >
            v{opened.number}
          </button>
          {unsaved && <span className="quiet font-normal"> · unsaved</span>}
        </>
      }
    >
      {overtaken && (
        <span role="status">
          <button className="word framed text-primary" onClick={onOvertaken}>
            {overtaken.newest === undefined
              ? 'this look was removed: keep yours …'
              : `v${overtaken.newest} was saved by somebody else …`}
          </button>
        </span>
      )}
      <Away away={away} project={project.id} />
      <History />
      <Bar />
      <Compare
        comparing={comparing}
        looks={looks}
        references={references}
        clips={project.clips}
        onKeep={onKeep}
        onTrouble={onTrouble}
      />
      <button
        className="word"
        onPointerDown={() => onBefore(true)}
        onPointerUp={() => onBefore(false)}
        onPointerLeave={() => onBefore(false)}
        title={`Hold to see ${comparing.name} (B)`}
      >
        hold: before
      </button>
      <button
        className={`word ${scopes.wanted ? 'framed' : ''}`}
        aria-pressed={scopes.wanted !== undefined}
        onClick={scopes.toggle}
        title="Scopes (O)"
      >
        scopes
      </button>
      <button
        className={`word ${sheet.open ? 'framed' : ''}`}
        aria-pressed={sheet.open}
        onClick={sheet.toggle}
        title="A sheet of the hero over the range of one or two dials or parameters (G)"
      >
        trials
      </button>
      <Bar />
      <Finder
        label="Another look"
        className="word"
        all={looks
          .filter((l) => l.id !== opened.lookId && l.versions.length > 0)
          .map((l) => ({ id: l.id, group: '', label: l.name, help: `v${l.versions[0]!.number}` }))}
        pictures={LookPictures}
        onChoose={(id) => {
          location.href = `/p/${project.id}/bench?look=${id}`;
        }}
      >
        looks
      </Finder>
      <button className="word main" disabled={!unsaved} onClick={onSave} title="Save version (V)">
        save version
      </button>
      <button className="word" aria-label="Shortcuts" title="Shortcuts (?)" onClick={onHelp}>
        ?
      </button>
    </Head>
  );
}
