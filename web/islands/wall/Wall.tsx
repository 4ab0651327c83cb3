import { useQueryClient } from '@tanstack/react-query';
import { useCallback, useEffect, useMemo, useState } from 'react';
import { useShortcuts } from '../../components/shortcuts';
import { goalWords, type LookDocument, unsuitedFor } from '../../../core';
import type { ClipView, LookView, ProjectView, ReferenceView, VersionView } from '../../data/views';
import { EngineClient } from '../../engine/client/client';
import { withLookTrims } from '../bench/useTrims';
import { pinTroubles } from '../../domain/pins';
import { tooLong } from './tooLong';
import { editOf, useClipEdits } from '../../data/clip-edits';
import {
  type AwayFrom,
  Island,
  useLooks,
  useEvents,
  useProject,
  useReferences,
} from '../../data/queries';
import { Notice } from '../../components/Head';
import { SaveVersion } from '../../components/SaveVersion';
import { arranged, FIRST_ARRANGING, frameAt, grouped } from './arrange';
import { ArrangeBar, SIZES } from './ArrangeBar';
import { BalancePanel } from './BalancePanel';
import { useAgeing } from './ageing';
import { useGoalProposals } from './goal-proposals';
import { type Selection, NO_SELECTION } from './selection';
import { DialsPanel } from './DialsPanel';
import { accepting, flaggedWords } from './flags';
import { FlagsPanel } from './FlagsPanel';
import { ForChosen } from './ForChosen';
import { type Pinning, PinsPanel } from './PinsPanel';
import { SpreadPanel } from './SpreadPanel';
import type { Stage } from './stages';
import { type Scrubbed } from './Scrub';
import { Tiles } from './Tiles';
import { replacedTrims, trimEdits, type TriedDials, TriedLooks } from './tried-dials';
import { useBalancing } from './useBalancing';
import { useTiles } from './useTiles';
import { WallHead } from './WallHead';
import { mostApplied, useVersions, lookEdits } from './applied-looks';

/** The Wall, as an island. */
export const Wall = ({ project }: { project: string }) => (
  <Island>
    <Loader project={project} />
  </Island>
);

function Loader({ project }: { project: string }) {
  const { data, error } = useProject(project);
  const away = useEvents(project);
  if (!data) return <p className="p-6">{error?.message ?? 'Opening …'}</p>;
  return <Place project={data} away={away} />;
}

const NO_LOOKS: readonly LookView[] = [];
const NO_REFERENCES: readonly ReferenceView[] = [];
const DRAWERS = ['balance', 'dials', 'pins', 'flags'] as const;
type Drawer = (typeof DRAWERS)[number];

function Place({ project, away }: { project: ProjectView; away: AwayFrom | null }) {
  const engine = useMemo(() => new EngineClient('bt709'), []);
  useEffect(() => () => engine.close(), [engine]);
  const queries = useQueryClient();
  const looks = useLooks().data ?? NO_LOOKS;
  const versions = useVersions(project.clips, looks);
  const newestOf = useCallback(
    (lookId: string) => versions.get(looks.find((l) => l.id === lookId)?.versions[0]?.id ?? ''),
    [versions, looks],
  );
  const [choice, setChoice] = useState<Selection>(NO_SELECTION);
  const { chosen } = choice;
  const [arranging, setArranging] = useState(FIRST_ARRANGING);
  const { size, order, grouping, playhead } = arranging;
  const [stage, setStage] = useState<Stage>('look'),
    [twofold, setTwofold] = useState(false);
  const [drawer, setDrawer] = useState<Drawer | null>(null),
    [spread, setSpread] = useState(false);
  const groups = useMemo(
    () => grouped(arranged(project.clips, order), grouping),
    [project.clips, order, grouping],
  );
  const shown = useMemo(() => groups.flatMap((g) => g.clips), [groups]);
  const some = shown.filter((c) => chosen.has(c.id));
  const [sight, setSight] = useState<readonly string[]>([]);
  const [trouble, setTrouble] = useState<string | null>(null);
  const edits = useClipEdits(project.id, setTrouble);

  const references = useReferences(project.id).data ?? NO_REFERENCES;
  const balancing = useBalancing(project, chosen, drawer === 'balance');
  const [tried, setTried] = useState<TriedDials | null>(null);
  const trying =
    drawer === 'dials'
      ? (tried ?? { lookId: mostApplied(project.clips) ?? '', whose: 'look' as const, values: {} })
      : null;
  const [saving, setSaving] = useState<{ version: VersionView; look: LookDocument } | null>(null);
  const goals = useGoalProposals(engine, project);
  const drifting = useAgeing(project.clips, drawer === 'dials');
  const aimed = useMemo(
    () =>
      new Map([
        ...drifting.trims,
        ...(drawer === 'dials' ? goals.proposals.map((p) => [p.clip.id, p.trims] as const) : []),
      ]),
    [drawer, goals.proposals, drifting.trims],
  );
  const triedLooks = useMemo(() => new TriedLooks(), []);
  const lookOf = useCallback(
    (c: ClipView) => {
      const version = c.look && versions.get(c.look.versionId);
      return version
        ? triedLooks.look(
            c,
            version,
            newestOf(version.lookId),
            drawer === 'dials' ? tried : null,
            chosen,
            aimed,
          )
        : c.look
          ? undefined
          : null;
    },
    [versions, newestOf, triedLooks, drawer, tried, chosen, aimed],
  );
  const notesOf = (c: ClipView): string | null => {
    const suits = (c.look && versions.get(c.look.versionId)?.document.suits) ?? [];
    const misfits = c.statistics
      ? unsuitedFor(suits, c.statistics).map(
          (u) => `does not suit the look: ${goalWords(u.suit)}, it has ${u.figure.toFixed(1)} %`,
        )
      : [];
    const look = documentOf(c);
    return (
      [
        flaggedWords(c),
        ...(look ? [...pinTroubles(look, c, project), ...tooLong(look, c)] : []),
        ...misfits,
      ]
        .filter(Boolean)
        .join('; ') || null
    );
  };
  const documentOf = (c: ClipView): LookDocument | null =>
    (c.look && versions.get(c.look.versionId)?.document) ?? null;
  // A scrubbed tile shows the frame under the pointer while the pointer is over it.
  const [scrubbed, setScrubbed] = useState<Scrubbed | null>(null);
  const frameOf = useCallback(
    (c: ClipView) => (scrubbed?.clip === c.id ? scrubbed.frame : frameAt(c, playhead, lookOf(c))),
    [playhead, lookOf, scrubbed],
  );
  const lastOf = useCallback((c: ClipView) => frameAt(c, 'end', lookOf(c)), [lookOf]);
  const [pinning, setPinning] = useState<Pinning | null>(null);
  useTiles(engine, project, {
    stage,
    lines: SIZES[size]![2],
    twofold,
    sight,
    frameOf,
    lookOf,
    coming: balancing.coming,
    measured: spread,
    pinning,
  });

  const all = () => setChoice({ ...NO_SELECTION, chosen: new Set(project.clips.map((c) => c.id)) });
  useShortcuts((shortcut) => {
    const act = {
      'mod+a': all,
      escape: () => setChoice(NO_SELECTION),
      'mod+z': edits.undo,
      'mod+shift+z': edits.redo,
    }[shortcut];
    act?.();
    return act !== undefined;
  });
  const open = (clip: string) => {
    location.href = `/p/${project.id}/bench?clip=${clip}`;
  };
  const toggle = (d: Drawer) => {
    setDrawer(drawer === d ? null : d);
    setTried(null);
    setPinning(null);
    goals.stop();
    if (d === 'balance' && stage === 'shot') setStage('balanced');
    if (d === 'dials') setStage('look');
  };
  return (
    <>
      <WallHead
        project={project.id}
        name={project.name}
        engine={engine}
        away={away}
        edits={edits}
        stage={stage}
        onStage={setStage}
        twofold={twofold}
        onTwofold={setTwofold}
        drawers={[
          ['spread', spread, () => setSpread(!spread)],
          ...DRAWERS.map((d) => [d, drawer === d, () => toggle(d)] as const),
        ]}
      />
      <div className="flex-none h-10 flex items-center gap-2 px-4 border-b line bg-base-200">
        <ForChosen
          all={project.clips.length}
          chosen={some}
          looks={looks}
          onAll={() => (some.length === project.clips.length ? setChoice(NO_SELECTION) : all())}
          onAssign={(to) => void edits.edit(to.kind, lookEdits(some, to, looks))}
          onChange={(name, to) =>
            void edits.edit(
              name,
              some.map((c) => editOf(c, to)),
            )
          }
        />
      </div>
      <ArrangeBar
        clips={project.clips.length}
        arranging={arranging}
        onArrange={(a) => setArranging((now) => ({ ...now, ...a }))}
      />
      <Notice text={trouble} onClose={() => setTrouble(null)} />
      <div className="flex-1 min-h-0 flex">
        {project.clips.length > 0 ? (
          <Tiles
            engine={engine}
            groups={groups}
            aspect={project.width / project.height}
            least={SIZES[size]![1]}
            twofold={twofold}
            choice={choice}
            onChoice={setChoice}
            onOpen={open}
            onSight={setSight}
            frameOf={frameOf}
            lastOf={lastOf}
            onScrub={setScrubbed}
            trimsOf={(c) => Object.keys((c.look && c.trims[c.look.lookId]) ?? {}).length}
            flagsOf={notesOf}
          />
        ) : (
          <p className="flex-1 py-16 text-center quiet">
            No clips yet: bring footage in on{' '}
            <a className="underline" href={`/p/${project.id}/rushes`}>
              Rushes
            </a>
            .
          </p>
        )}
        {drawer === 'balance' && (
          <BalancePanel
            project={project}
            references={references}
            chosen={some}
            hand={balancing.hand?.balance ?? null}
            onHand={(balance) =>
              balancing.setHand(balance && some[0] ? { clip: some[0].id, balance } : null)
            }
            wish={balancing.wish}
            onWish={balancing.setWish}
            proposed={balancing.proposed}
            onApply={() => {
              const { name, edits: next } = balancing.taken();
              void edits.edit(name, next);
            }}
            onTakeOff={() =>
              void edits.edit(
                'balance',
                some.filter((c) => c.balance).map((c) => editOf(c, { balance: null })),
              )
            }
            onHold={balancing.hold}
            onClose={() => setDrawer(null)}
          />
        )}
        {drawer === 'pins' && (
          <PinsPanel
            engine={engine}
            project={project}
            clips={some.length > 0 ? some : shown}
            documentOf={documentOf}
            pinning={pinning}
            onPinning={setPinning}
            onPins={(of, name) =>
              void edits.edit(
                name,
                of.map(({ clip, pins }) => editOf(clip, { pins })),
              )
            }
            onClose={() => toggle('pins')}
          />
        )}
        {drawer === 'flags' && (
          <FlagsPanel
            project={project}
            clips={some.length > 0 ? some : shown}
            documentOf={documentOf}
            onAccept={(c, kind, reason) =>
              void edits.edit(reason === null ? 'take back' : 'accept', [
                editOf(c, { accepted: accepting(c, kind, reason) }),
              ])
            }
            onTrouble={setTrouble}
            onClose={() => setDrawer(null)}
          />
        )}
        {trying && (
          <DialsPanel
            clips={project.clips}
            chosen={some}
            looks={[
              ...new Set(project.clips.flatMap((c) => (c.look ? [c.look.lookId] : []))),
            ].flatMap((id) => newestOf(id) ?? [])}
            trying={trying}
            goals={goals}
            drifting={drifting}
            onAged={() => {
              const { lookId } = drifting.ageing!;
              const next = project.clips.flatMap((c) => {
                const trims = drifting.trims.get(c.id);
                return trims ? [editOf(c, { trims: withLookTrims(c.trims, lookId, trims) })] : [];
              });
              void edits.edit('ageing', next).then(() => drifting.set(null));
            }}
            onAimed={() => {
              const next = goals.proposals.filter((p) => p.trims !== p.clip.trims[trying.lookId]);
              goals.stop();
              void edits.edit(
                'goals',
                next.map((p) =>
                  editOf(p.clip, { trims: withLookTrims(p.clip.trims, trying.lookId, p.trims) }),
                ),
              );
            }}
            onTry={(t) => {
              goals.stop();
              if (t.lookId !== trying.lookId) drifting.set(null);
              setTried(t);
            }}
            onSave={(version, look) => setSaving({ version, look })}
            onTrim={() =>
              void edits
                .edit('trims', trimEdits(some, trying.lookId, trying.values))
                .then(() => setTried({ ...trying, values: {} }))
            }
            onCopy={(from) => {
              const others = some.filter((c) => c.id !== from.id);
              void edits.edit(
                'trims',
                replacedTrims(others, trying.lookId, from.trims[trying.lookId] ?? {}),
              );
            }}
            onClear={(c) => void edits.edit('trims', replacedTrims([c], trying.lookId, {}))}
            onClose={() => toggle('dials')}
          />
        )}
      </div>
      {spread && project.clips.length > 0 && (
        <SpreadPanel engine={engine} clips={project.clips} onOpen={open} />
      )}
      {saving && (
        <SaveVersion
          project={project.id}
          lookId={saving.version.lookId}
          number={saving.version.number}
          look={saving.look}
          onSaved={() => {
            setTried(null);
            void queries.invalidateQueries({ queryKey: ['looks'] });
          }}
          onOvertaken={() =>
            setTrouble(
              'Somebody else saved a version of this look meanwhile, or removed it: ' +
                'what you tried is tried on the newest now, and saved by saving once more.',
            )
          }
          onTrouble={setTrouble}
          onClose={() => setSaving(null)}
        />
      )}
    </>
  );
}
