import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useCallback, useEffect, useMemo, useState, useSyncExternalStore } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import { type Balance, type ClipStatistics, goalWords, type LookDocument, unsuitedFor } from '../../../core';
import { call } from '../../api/client';
import type { ClipView, LookView, ProjectView, ReferenceView, VersionView } from '../../api/views';
import { EngineClient } from '../../engine/client';
import { withLookTrims } from '../bench/useTrims';
import { pinTroubles } from '../shared/pins';
import { editOf, useClipEdits } from '../shared/clipEdits';
import { Away, Island, useLooks, useNews, useProject, useReferences } from '../shared/data';
import { Head, Notice } from '../shared/Head';
import { SaveVersion } from '../shared/SaveVersion';
import { arranged, frameAt, grouped, type Grouping, GROUPINGS, type Order, ORDERS, type Playhead, PLAYHEADS } from './arrange';
import { BalancePanel } from './BalancePanel';
import { FIRST_WISH, proposals, referenceIn } from './balancing';
import { useAiming } from './aiming';
import { Choices } from './Choices';
import { type Choice, NO_CHOICE } from './choosing';
import { DialsPanel } from './DialsPanel';
import { accepting, flaggedWords } from './flags';
import { FlagsPanel } from './FlagsPanel';
import { ForChosen, type Wearing } from './ForChosen';
import { type Pinning, PinsPanel } from './PinsPanel';
import { SpreadPanel } from './SpreadPanel';
import { type Stage, STAGES } from './stages';
import { Tiles } from './Tiles';
import { replacedTrims, trimEdits, type Trying, Worn } from './trying';
import { useTiles } from './useTiles';
import { mostWorn, useVersions } from './worn';

export const Wall = ({ project }: { project: string }) => (
  <Island>
    <Door project={project} />
  </Island>
);

function Door({ project }: { project: string }) {
  const { data, error } = useProject(project);
  const away = useNews(project);
  if (!data) return <p className="p-6">{error?.message ?? 'Opening …'}</p>;
  return <Place project={data} away={away} />;
}

/** What keeps the engine from showing a tile. */
function EngineTrouble({ engine }: { engine: EngineClient }) {
  const { trouble } = useSyncExternalStore(
    (f) => engine.onStatus(f),
    () => engine.status,
  );
  return trouble ? <span role="alert">{trouble}</span> : null;
}

/** Their names, the least width of a tile, and the height of its picture. */
const SIZES = [
  ['contact sheet', 118, 135],
  ['small', 170, 135],
  ['medium', 260, 270],
  ['large', 420, 270],
] as const;

const NO_LOOKS: readonly LookView[] = [];
const NO_REFERENCES: readonly ReferenceView[] = [];
const NOTHING_COMES: ReadonlyMap<string, null> = new Map();
type Drawer = 'balance' | 'dials' | 'pins' | 'flags';

function Place({ project, away }: { project: ProjectView; away: boolean }) {
  const engine = useMemo(() => new EngineClient('bt709'), []);
  useEffect(() => () => engine.close(), [engine]);
  const queries = useQueryClient();
  const looks = useLooks().data ?? NO_LOOKS;
  const versions = useVersions(project.clips, looks);
  const newestOf = useCallback((lookId: string) => versions.get(looks.find((l) => l.id === lookId)?.versions[0]?.id ?? ''), [versions, looks]);
  const [choice, setChoice] = useState<Choice>(NO_CHOICE);
  const { chosen } = choice;
  const [size, setSize] = useState(2);
  const [stage, setStage] = useState<Stage>('look'),
    [twofold, setTwofold] = useState(false);
  const [drawer, setDrawer] = useState<Drawer | null>(null),
    [spread, setSpread] = useState(false);
  const [held, setHeld] = useState(false);
  const [order, setOrder] = useState<Order>('as shot in'),
    [grouping, setGrouping] = useState<Grouping>('nothing'),
    [playhead, setPlayhead] = useState<Playhead>('middle');
  const groups = useMemo(() => grouped(arranged(project.clips, order), grouping), [project.clips, order, grouping]);
  const shown = useMemo(() => groups.flatMap((g) => g.clips), [groups]);
  const some = shown.filter((c) => chosen.has(c.id));
  const [sight, setSight] = useState<readonly string[]>([]);
  const [wish, setWish] = useState(FIRST_WISH);
  const [trouble, setTrouble] = useState<string | null>(null);
  const edits = useClipEdits(project.id, setTrouble);

  const references = useReferences(project.id).data ?? NO_REFERENCES;
  const aim = referenceIn(wish);
  const ground = useQuery({
    queryKey: ['reference statistics', aim],
    queryFn: () => call<ClipStatistics>('GET', `/api/references/${aim}/statistics`),
    enabled: aim !== null,
    staleTime: Infinity,
  }).data;
  const proposed = useMemo(
    () => (drawer === 'balance' ? proposals(project.clips, chosen, wish, ground) : []),
    [drawer, project.clips, chosen, wish, ground],
  );
  const [byHand, setByHand] = useState<{ clip: string; balance: Balance } | null>(null);
  // What is made by hand belongs to the one clip that is chosen.
  const hand = drawer === 'balance' && chosen.size === 1 && byHand && chosen.has(byHand.clip) ? byHand : null;
  const coming = useMemo(
    () => (held ? NOTHING_COMES : hand ? new Map([[hand.clip, hand.balance]]) : new Map(proposed.map((p) => [p.clip.id, p.balance]))),
    [held, hand, proposed],
  );
  const [tried, setTried] = useState<Trying | null>(null);
  const trying = drawer === 'dials' ? (tried ?? { lookId: mostWorn(project.clips) ?? '', whose: 'look' as const, values: {} }) : null;
  const [saving, setSaving] = useState<{ version: VersionView; look: LookDocument } | null>(null);
  const aiming = useAiming(engine, project);
  const aimed = useMemo(
    () => new Map(drawer === 'dials' ? aiming.proposals.map((p) => [p.clip.id, p.trims] as const) : []),
    [drawer, aiming.proposals],
  );
  const worn = useMemo(() => new Worn(), []);
  const lookOf = useCallback(
    (c: ClipView) => {
      const version = c.look && versions.get(c.look.versionId);
      return version ? worn.look(c, version, newestOf(version.lookId), drawer === 'dials' ? tried : null, chosen, aimed) : c.look ? undefined : null;
    },
    [versions, newestOf, worn, drawer, tried, chosen, aimed],
  );
  const notesOf = (c: ClipView): string | null => {
    const suits = (c.look && versions.get(c.look.versionId)?.document.suits) ?? [];
    const misfits = c.statistics
      ? unsuitedFor(suits, c.statistics).map((u) => `does not suit the look: ${goalWords(u.suit)}, it has ${u.figure.toFixed(1)} %`)
      : [];
    const look = documentOf(c);
    return [flaggedWords(c), ...(look ? pinTroubles(look, c, project) : []), ...misfits].filter(Boolean).join('; ') || null;
  };
  const documentOf = (c: ClipView): LookDocument | null => (c.look && versions.get(c.look.versionId)?.document) ?? null;
  const frameOf = useCallback((c: ClipView) => frameAt(c, playhead, c.look ? versions.get(c.look.versionId)?.document : null), [playhead, versions]);
  const [pinning, setPinning] = useState<Pinning | null>(null);
  useTiles(engine, project, { stage, lines: SIZES[size]![2], twofold, sight, frameOf, lookOf, coming, measured: spread, pinning });

  const all = () => setChoice({ ...NO_CHOICE, chosen: new Set(project.clips.map((c) => c.id)) });
  useHotkeys(
    'mod+a',
    (e) => {
      e.preventDefault();
      all();
    },
    [project.clips],
  );
  useHotkeys('escape', () => setChoice(NO_CHOICE));
  useHotkeys('mod+z', () => edits.undo(), [edits]);
  useHotkeys('mod+shift+z', () => edits.redo(), [edits]);
  const open = (clip: string) => {
    location.href = `/p/${project.id}/bench?clip=${clip}`;
  };
  const assign = (to: Wearing) => {
    if (to.kind === 'look')
      return edits.edit(
        'look',
        some.map((c) => editOf(c, { version: to.version, follows: to.follows })),
      );
    const wearing = some.filter((c) => c.look);
    if (to.kind === 'stay')
      return edits.edit(
        'stay',
        wearing.map((c) => editOf(c, { follows: false })),
      );
    return edits.edit(
      'follow',
      wearing.map((c) => editOf(c, { version: looks.find((l) => l.id === c.look!.lookId)?.versions[0]?.id ?? c.look!.versionId, follows: true })),
    );
  };
  const toggle = (d: Drawer) => {
    setDrawer(drawer === d ? null : d);
    setTried(null);
    setPinning(null);
    aiming.stop();
    if (d === 'balance' && stage === 'shot') setStage('balanced');
    if (d === 'dials') setStage('look');
  };
  const last = edits.past.at(-1),
    next = edits.future.at(-1);

  return (
    <>
      <Head
        title={
          <>
            {project.name} <span className="quiet font-normal">· Wall</span>
          </>
        }
      >
        <Away away={away} />
        <EngineTrouble engine={engine} />
        <button className="word" disabled={!last} title={last ? `Undo ${last.name} (Ctrl Z)` : 'Nothing to undo'} onClick={edits.undo}>
          undo
          {last && (
            <span className="quiet">
              {last.name} of {last.edits.length}
            </span>
          )}
        </button>
        <button className="word" disabled={!next} title={next ? `Redo ${next.name}` : 'Nothing to redo'} onClick={edits.redo}>
          redo
        </button>
        <span className="flex" role="group" aria-label="Tiles show">
          {STAGES.map(([id, label]) => (
            <button key={id} aria-pressed={stage === id} className={`word ${stage === id ? 'framed' : ''}`} onClick={() => setStage(id)}>
              {label}
            </button>
          ))}
          <button
            aria-pressed={twofold}
            className={`word ${twofold ? 'framed' : ''}`}
            title="The clip as balanced beside each tile"
            onClick={() => setTwofold(!twofold)}
          >
            side by side
          </button>
        </span>
        <span className="w-px h-5 bg-current opacity-15" />
        {(
          [
            ['spread', spread, () => setSpread(!spread)],
            ['balance', drawer === 'balance', () => toggle('balance')],
            ['dials', drawer === 'dials', () => toggle('dials')],
            ['pins', drawer === 'pins', () => toggle('pins')],
            ['flags', drawer === 'flags', () => toggle('flags')],
          ] as const
        ).map(([label, on, press]) => (
          <button key={label} className={`word ${on ? 'framed' : ''}`} aria-pressed={on} onClick={press}>
            {label}
          </button>
        ))}
      </Head>
      <div className="flex-none h-10 flex items-center gap-2 px-4 border-b line bg-base-200">
        <ForChosen
          all={project.clips.length}
          chosen={some}
          looks={looks}
          onAll={() => (some.length === project.clips.length ? setChoice(NO_CHOICE) : all())}
          onAssign={(to) => void assign(to)}
          onChange={(name, to) =>
            void edits.edit(
              name,
              some.map((c) => editOf(c, to)),
            )
          }
        />
      </div>
      <div className="flex-none h-9 flex items-center gap-4 px-4 border-b line">
        <Choices
          label="tile size"
          options={SIZES.map(([label]) => label)}
          value={SIZES[size]![0]}
          onValue={(v) => setSize(SIZES.findIndex(([l]) => l === v))}
        />
        <Choices label="at the" options={PLAYHEADS} value={playhead} onValue={setPlayhead} />
        <Choices label="sorted" options={ORDERS} value={order} onValue={setOrder} />
        <Choices label="grouped by" options={GROUPINGS} value={grouping} onValue={setGrouping} />
        <span className="num quiet ml-auto">
          {project.clips.length} clip{project.clips.length === 1 ? '' : 's'}
        </span>
      </div>
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
            hand={hand?.balance ?? null}
            onHand={(balance) => setByHand(balance && some[0] ? { clip: some[0].id, balance } : null)}
            wish={wish}
            onWish={setWish}
            proposed={proposed}
            onApply={() => {
              const next = hand
                ? some.map((c) => editOf(c, { balance: hand.balance }))
                : proposed.map(({ clip, balance }) => editOf(clip, { balance }));
              setByHand(null);
              void edits.edit(hand ? 'balance by hand' : 'balance', next);
            }}
            onTakeOff={() =>
              void edits.edit(
                'balance',
                some.filter((c) => c.balance).map((c) => editOf(c, { balance: null })),
              )
            }
            onHold={setHeld}
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
            onPins={(c, pins, name) => void edits.edit(name, [editOf(c, { pins })])}
            onClose={() => toggle('pins')}
          />
        )}
        {drawer === 'flags' && (
          <FlagsPanel
            project={project}
            clips={some.length > 0 ? some : shown}
            documentOf={documentOf}
            onAccept={(c, kind, reason) =>
              void edits.edit(reason === null ? 'take back' : 'accept', [editOf(c, { accepted: accepting(c, kind, reason) })])
            }
            onTrouble={setTrouble}
            onClose={() => setDrawer(null)}
          />
        )}
        {trying && (
          <DialsPanel
            clips={project.clips}
            chosen={some}
            looks={[...new Set(project.clips.flatMap((c) => (c.look ? [c.look.lookId] : [])))].flatMap((id) => newestOf(id) ?? [])}
            trying={trying}
            aiming={aiming}
            onAimed={() => {
              const next = aiming.proposals.filter((p) => p.trims !== p.clip.trims[trying.lookId]);
              aiming.stop();
              void edits.edit(
                'goals',
                next.map((p) => editOf(p.clip, { trims: withLookTrims(p.clip.trims, trying.lookId, p.trims) })),
              );
            }}
            onTry={(t) => {
              aiming.stop();
              setTried(t);
            }}
            onSave={(version, look) => setSaving({ version, look })}
            onTrim={() => void edits.edit('trims', trimEdits(some, trying.lookId, trying.values)).then(() => setTried({ ...trying, values: {} }))}
            onCopy={(from) => {
              const others = some.filter((c) => c.id !== from.id);
              void edits.edit('trims', replacedTrims(others, trying.lookId, from.trims[trying.lookId] ?? {}));
            }}
            onClear={(c) => void edits.edit('trims', replacedTrims([c], trying.lookId, {}))}
            onClose={() => toggle('dials')}
          />
        )}
      </div>
      {spread && project.clips.length > 0 && <SpreadPanel engine={engine} clips={project.clips} onOpen={open} />}
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
          onTrouble={setTrouble}
          onClose={() => setSaving(null)}
        />
      )}
    </>
  );
}
