import { keepPreviousData, useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useMemo, useState } from 'react';
import { useStore } from 'zustand';
import { edit, type LookDocument, type ClipPins, lackingPins, type Reframe, type Region, resolve, SHIPPED, stepOf, trimmed } from '../../../core';
import { call, type Refused } from '../../api/client';
import type { ClipView, LookView, ProjectView, VersionView } from '../../api/views';
import { EngineClient } from '../../engine/client';
import { Picture } from '../../engine/Picture';
import type { ClipEdit, ClipWork } from '../../../server/clips';
import { backwards, editOf, useSending } from '../shared/clipEdits';
import { placesOf, seenOf, withPin } from '../shared/pins';
import { Away, Island, useLooks, useNews, useProject, useReferences, versionQuery } from '../shared/data';
import { Head, Notice } from '../shared/Head';
import { SaveVersion } from '../shared/SaveVersion';
import { Compare, keepHero } from './Compare';
import { useComparing } from './comparing';
import { BenchContext, CoveringContext } from './context';
import { Dials } from './Dials';
import { FIT, Hero, type Zoom } from './Hero';
import { History } from './History';
import { KeyList } from './KeyList';
import { Modes, useModes } from './Modes';
import { Pins } from './Pins';
import { Ribbon } from './Ribbon';
import { Scopes } from './Scopes';
import { StatusLine } from './StatusLine';
import { type BenchStore, benchStore, draftOf, isUnsaved } from './store';
import { Strata } from './Strata';
import { useCovering } from './useCovering';
import { useKeys } from './useKeys';
import { usePlaying } from './usePlaying';
import { trimsOf, useTrims } from './useTrims';
import { useViews } from './useViews';
import { Variations } from './Variations';
import { useVariations } from './variations';

interface BenchProps {
  readonly project: string;
  /** The look to open, the hero, and the frame it stands at. */
  readonly look: string | null;
  readonly clip: string | null;
  readonly frame: string | null;
}

export const Bench = ({ project, look, clip, frame }: BenchProps) => (
  <Island>
    <Door project={project} wanted={look} clip={clip} at={frame === null ? null : Number(frame)} />
  </Island>
);

/** Finds the look to open: the one asked for, else the one that the asked clip wears, else the one on most clips. */
function Door({ project, wanted, clip, at }: { project: string; wanted: string | null; clip: string | null; at: number | null }) {
  const { data, error } = useProject(project);
  const looks = useLooks();
  const away = useNews(project);
  const most =
    data &&
    [...data.clips]
      .map((c) => c.look?.lookId)
      .filter(Boolean)
      .sort((a, b, all = data.clips.map((c) => c.look?.lookId)) => all.filter((x) => x === b).length - all.filter((x) => x === a).length)[0];
  const worn = data?.clips.find((c) => c.id === clip)?.look?.lookId;
  const chosen = looks.data?.find((l) => l.id === (wanted ?? worn ?? most)) ?? looks.data?.[0];
  // A version saved meanwhile leaves the Bench as it stands: what is open, its history, its hero and its zoom.
  const version = useQuery({ ...versionQuery(chosen?.versions[0]?.id ?? ''), enabled: chosen !== undefined, placeholderData: keepPreviousData });
  const trouble = error ?? looks.error ?? version.error;
  if (trouble)
    return (
      <p role="alert" className="p-6">
        {trouble.message}
      </p>
    );
  if (data && data.clips.length === 0)
    return (
      <p className="p-6">
        There is no footage yet:{' '}
        <a className="underline" href={`/p/${project}/rushes`}>
          bring some in
        </a>
        , then build a look here.
      </p>
    );
  if (looks.data?.length === 0) return <Empty project={project} />;
  if (!data || !looks.data || !version.data) return <p className="p-6">Opening …</p>;
  return <Opened key={version.data.lookId} project={data} looks={looks.data} version={version.data} clip={clip} at={at} away={away} />;
}

function Empty({ project }: { project: string }) {
  const start = async () => {
    const { lookId } = await call<{ lookId: string }>('POST', '/api/looks', { document: SHIPPED[0]!.look });
    location.href = `/p/${project}/bench?look=${lookId}`;
  };
  return (
    <p className="p-6 flex gap-3 items-center">
      There is no look yet.{' '}
      <button className="word main" onClick={() => void start()}>
        Start from {SHIPPED[0]!.look.name}
      </button>
      <a className="underline" href={`/p/${project}/shelf`}>
        or make one on the Shelf
      </a>
    </p>
  );
}

interface OpenedProps {
  readonly project: ProjectView;
  readonly looks: readonly LookView[];
  readonly version: VersionView;
  readonly clip: string | null;
  readonly at: number | null;
  readonly away: boolean;
}

function Opened({ project, looks, version, clip, at, away }: OpenedProps) {
  const [store] = useState<BenchStore>(() => {
    const draft = draftOf(version.lookId);
    const opened = { lookId: version.lookId, number: draft?.basedOn ?? version.number, saved: version.document };
    return benchStore(opened, draft?.look ?? version.document, trimsOf(project, version.lookId));
  });
  const engine = useMemo(() => new EngineClient('bt709'), []);
  useEffect(() => () => engine.close(), [engine]);
  return (
    <BenchContext.Provider value={{ store, engine }}>
      <Table project={project} looks={looks} store={store} engine={engine} clip={clip} at={at} away={away} />
    </BenchContext.Provider>
  );
}

/** The hero to begin with: the first clip that wears the look. */
const firstHero = (p: ProjectView, lookId: string): string => (p.clips.find((c) => c.look?.lookId === lookId) ?? p.clips[0]!).id;

/** A clip's reframing while it is tried. */
interface Tried {
  readonly clip: string;
  readonly reframe: Reframe;
}
const withReframe = (p: ProjectView, tried: Tried | null): ProjectView =>
  tried ? { ...p, clips: p.clips.map((c) => (c.id === tried.clip ? { ...c, reframe: tried.reframe } : c)) } : p;

function Table({
  project: known,
  looks,
  store,
  engine,
  clip,
  at,
  away,
}: {
  project: ProjectView;
  looks: readonly LookView[];
  store: BenchStore;
  engine: EngineClient;
  clip: string | null;
  at: number | null;
  away: boolean;
}) {
  const queries = useQueryClient();
  // While a dial moves, nothing here is drawn anew.
  const look = useStore(store, (s) => s.still),
    opened = useStore(store, (s) => s.opened),
    unsaved = useStore(store, isUnsaved);
  const [tried, setTried] = useState<Tried | null>(null);
  const project = useMemo(() => withReframe(known, tried), [known, tried]);
  const [heroId, setHeroId] = useState(() => clip ?? firstHero(project, opened.lookId));
  const hero = project.clips.find((c) => c.id === heroId) ?? project.clips[0]!;
  const [frames, setFrames] = useState<Readonly<Record<string, number>>>(clip !== null && Number.isInteger(at) ? { [clip]: at! } : {});
  const frame = Math.max(0, Math.min(frames[hero.id] ?? Math.floor(hero.frames / 2), hero.frames - 1));
  const setFrame = (f: number) => setFrames((all) => ({ ...all, [hero.id]: Math.max(0, Math.min(hero.frames - 1, f)) }));
  const [zoom, setZoom] = useState<Zoom>(FIT);
  const [before, setBefore] = useState(false),
    [help, setHelp] = useState(false);
  const references = useReferences(project.id).data ?? [];
  const comparing = useComparing(looks, references, project.clips, hero);
  const sheet = useVariations(store, hero.id);
  const modesOf = useStore(store, (s) => s.modesOf),
    modes = useModes(store, hero.id, modesOf);
  const scopes = useScopes();
  const [trouble, setTrouble] = useState<string | null>(null);
  const playing = usePlaying(engine, hero, frame, setFrame);
  const companions = useMemo(() => pickCompanions(project.clips, hero), [project.clips, hero]);
  useViews(engine, project, store, {
    hero,
    frame,
    companions,
    playing: playing.on,
    before: comparing.mode !== 'off' || before ? comparing.shot : undefined,
    gain: comparing.mode === 'difference' && !before ? comparing.gain : undefined,
    marks: comparing.marks,
    variations: modesOf === null ? sheet.looks : modes,
    full: zoom.scale !== 'fit',
    scopes: scopes.wanted,
  });

  useTrims(store, project, opened.lookId, setTrouble);
  /** What is decided about the hero, at once on the server; undone among the look's own changes. */
  const send = useSending(project.id);
  const sendHero = (edits: readonly ClipEdit[]) => void send(edits).then((refused) => refused && setTrouble(refused.message));
  const setHero = (name: string, to: Partial<ClipWork>) => {
    // As the hero is by now, not as it was when the place was asked for.
    const now = queries.getQueryData<ProjectView>(['project', project.id])?.clips.find((c) => c.id === hero.id) ?? hero;
    const change = [editOf(now, to)];
    sendHero(change);
    store.getState().did(name, { undo: () => sendHero(backwards(change)), redo: () => sendHero(change) });
  };
  const setPins = (name: string, pins: ClipPins) => setHero(name, { pins });
  const covering = useCovering(look, hero, project);
  const seen = seenOf(project, look);
  const setCue = () => {
    const asked = look.pins?.filter((p) => p.kind === 'cue') ?? [];
    const cue = asked.find((p) => lackingPins(look, hero.pins).includes(p)) ?? asked[0];
    if (cue) setPins(`${cue.label} of ${hero.name}`, withPin(hero.pins, cue, { frame }));
  };
  const toggleTrimming = () => store.getState().trimFor(store.getState().trimming === null ? hero.id : null);
  useEffect(() => {
    if (store.getState().trimming !== null) store.getState().trimFor(hero.id);
  }, [store, hero.id]);
  const [saving, setSaving] = useState<LookDocument | null>(null);
  const save = () => {
    if (unsaved) setSaving(store.getState().look);
  };
  const keep = async () => {
    try {
      const version = looks.find((l) => l.id === opened.lookId)?.versions.find((v) => v.number === opened.number)?.id ?? null;
      const { look: now, trims } = store.getState();
      await keepHero(project.id, hero, frame, trimmed(now, trims[hero.id]), version);
      await queries.invalidateQueries({ queryKey: ['references', project.id] });
    } catch (e) {
      setTrouble((e as Refused).message);
    }
  };
  useKeys(store, {
    frame,
    setFrame,
    last: hero.frames - 1,
    play: playing.toggle,
    setBefore,
    toggleMode: comparing.toggle,
    turnSeam: () => comparing.set({ mode: 'seam', upright: !comparing.upright }),
    toggleMarks: () => comparing.set({ marks: !comparing.marks }),
    keepReference: () => void keep(),
    toggleSheet: sheet.toggle,
    toggleTrimming,
    setCue,
    toggleScopes: scopes.toggle,
    zoom,
    setZoom,
    save,
    help: () => setHelp((h) => !h),
  });

  return (
    <>
      <Head
        title={
          <>
            {project.name} <span className="quiet font-normal">·</span> <span data-testid="look-name">{look.name}</span>{' '}
            <span className="num quiet" data-testid="version">
              v{opened.number}
            </span>
            {unsaved && <span className="quiet font-normal"> · unsaved</span>}
          </>
        }
      >
        <Away away={away} />
        <History />
        <span className="w-px h-5 bg-current opacity-15" />
        <Compare
          comparing={comparing}
          looks={looks}
          references={references}
          clips={project.clips}
          onKeep={() => void keep()}
          onTrouble={setTrouble}
        />
        <button
          className="word"
          onPointerDown={() => setBefore(true)}
          onPointerUp={() => setBefore(false)}
          onPointerLeave={() => setBefore(false)}
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
          variations
        </button>
        <span className="w-px h-5 bg-current opacity-15" />
        <select
          className="field w-36"
          aria-label="Look"
          value={opened.lookId}
          onChange={(e) => {
            location.href = `/p/${project.id}/bench?look=${e.target.value}`;
          }}
        >
          {looks.map((l) => (
            <option key={l.id} value={l.id}>
              {l.name}
            </option>
          ))}
        </select>
        <button className="word main" disabled={!unsaved} onClick={save} title="Save version (V)">
          save version
        </button>
        <button className="word" aria-label="Shortcuts" title="Shortcuts (?)" onClick={() => setHelp(true)}>
          ?
        </button>
      </Head>
      <Notice text={trouble} onClose={() => setTrouble(null)} />
      <div className="flex-1 min-h-0 flex">
        <CoveringContext value={covering}>
          <Strata hero={hero} project={project} onHero={setHero} onTry={(reframe) => setTried(reframe && { clip: hero.id, reframe })}>
            <Pins hero={hero} project={project} frame={frame} onPins={setPins} />
          </Strata>
        </CoveringContext>
        <div className="flex-1 min-w-0 flex flex-col">
          <Dials hero={hero} />
          <div className="relative flex-1 min-h-0 flex">
            <Hero
              shape={[project.width, project.height]}
              zoom={zoom}
              onZoom={setZoom}
              comparing={comparing}
              before={before}
              name={hero.name}
              region={scopes.wanted?.region ?? null}
              onRegion={scopes.wanted ? scopes.setRegion : undefined}
              framed={seen.framed}
              places={(look.pins ?? []).flatMap((p) => placesOf(p, hero, seen))}
            />
            {modesOf !== null && <Modes layer={modesOf} shape={[project.width, project.height]} />}
            {modesOf === null && sheet.open && <Variations sheet={sheet} shape={[project.width, project.height]} />}
            {scopes.wanted && (
              <Scopes
                of={scopes.wanted.of}
                onOf={scopes.setOf}
                parade={scopes.parade}
                onParade={scopes.setParade}
                region={scopes.wanted.region !== null}
                onWhole={() => scopes.setRegion(null)}
                onLevel={(stops) => store.getState().change('bring lightness back', (now) => withExposure(now, stops))}
              />
            )}
          </div>
          <Ribbon clip={hero} cues={cuesOf(look, hero)} frame={frame} playing={playing.on} onFrame={setFrame} onPlay={playing.toggle} />
          <Companions engine={engine} clips={companions} project={project} onHero={setHeroId} />
          <StatusLine engine={engine} clip={hero} clips={project.clips} onHero={setHeroId} />
        </div>
      </div>
      {saving && (
        <SaveVersion
          project={project.id}
          lookId={opened.lookId}
          number={opened.number}
          look={saving}
          onSaved={(number) => store.getState().savedAs(number, saving)}
          onTrouble={setTrouble}
          onClose={() => setSaving(null)}
        />
      )}
      {help && <KeyList onClose={() => setHelp(false)} />}
    </>
  );
}

/** The scopes' drawer: open or not, and what it measures. */
function useScopes() {
  const [open, setOpen] = useState(false);
  const [of, setOf] = useState<'before' | 'after'>('after');
  const [region, setRegion] = useState<Region | null>(null);
  const [parade, setParade] = useState(false);
  const wanted = useMemo(() => (open ? { of, region } : undefined), [open, of, region]);
  return { wanted, toggle: () => setOpen((o) => !o), setOf, setRegion, parade, setParade };
}

const LEVEL_LAYER = 'lightness';
/** The look with a layer on top that moves its light by so many stops more. */
function withExposure(look: LookDocument, stops: number): LookDocument {
  const top = look.layers.at(-1);
  if (top?.key === LEVEL_LAYER && top.steps[0]?.step === 'exposure') {
    const now = resolve(look, top.steps[0].parameters['stops'] ?? { value: 0 }, {}) as number;
    return edit.setConstant(look, top.key, top.steps[0].key, 'stops', Math.round((now + stops) * 1000) / 1000);
  }
  const more = edit.addLayer(
    look,
    edit.newLayer(
      LEVEL_LAYER,
      'below',
      look.layers.map((l) => l.key),
      [edit.newStep(stepOf('exposure')!, [])],
    ),
  );
  const layer = more.layers.at(-1)!;
  return edit.setConstant(more, layer.key, layer.steps[0]!.key, 'stops', Math.round(stops * 1000) / 1000);
}

/** The frames of the cues that a look asks for. */
const cuesOf = (look: LookDocument, c: ClipView): number[] =>
  (look.pins ?? []).flatMap((p) => (c.pins[p.key] ?? []).flatMap((v) => ('frame' in v ? [v.frame] : [])));

const COMPANIONS = 6;
/** Six other clips, those after the hero in the project's order first. */
function pickCompanions(clips: readonly ClipView[], hero: ClipView): ClipView[] {
  const at = clips.findIndex((c) => c.id === hero.id);
  return [...clips.slice(at + 1), ...clips.slice(0, Math.max(0, at))].slice(0, COMPANIONS);
}

function Companions({
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
  return (
    <ul aria-label="Companions" className="flex-none grid grid-cols-6 gap-1.5 p-2 border-t line bg-base-200 isolate">
      {clips.map((c) => (
        <li key={c.id}>
          <button className="block w-full text-left" title={`Make ${c.name} the hero`} onClick={() => onHero(c.id)}>
            <span className="block bg-base-300" style={{ aspectRatio: `${project.width}/${project.height}` }}>
              <Picture engine={engine} view={`companion:${c.id}`} label={`${c.name} under the look`} className="w-full h-full object-contain" />
            </span>
            <span className="block truncate pt-0.5 quiet">{c.name}</span>
          </button>
        </li>
      ))}
    </ul>
  );
}
