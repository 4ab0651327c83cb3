import { useQueryClient } from '@tanstack/react-query';
import { useMemo, useRef, useState } from 'react';
import { useStore } from 'zustand';
import {
  type Asking,
  kindInFrame,
  lackingPins,
  lookFrame,
  type LookDocument,
  withTrims,
  lengthOf,
  timeOf,
  footageAt,
  momentAt,
  placeOn,
} from '../../../core';
import { Boundary } from '../../data/Boundary';
import { useTracks } from '../../data/traces';
import type { Refused } from '../../data/http';
import type { ClipView, LookView, ProjectView } from '../../data/views';
import type { EngineClient } from '../../engine/client/client';
import { placesOf, seenOf, withPin, nextLacking } from '../../domain/pins';
import { type AwayFrom, useReferences } from '../../data/queries';
import { Notice } from '../../components/Head';
import { useStored } from '../../components/useStored';
import { SaveVersion } from '../../components/SaveVersion';
import { BenchHead } from './BenchHead';
import { useBaking } from './useBaking';
import { Companions, isRows, pickCompanions, type Rows } from './Companions';
import { keepHero } from './Compare';
import { useComparison } from './comparison';
import { ClipContext, CoveringContext, type HeroFacts, useAsking, TracksContext } from './context';
import { Dials } from './Dials';
import { FIT, Hero, type Zoom } from './Hero';
import { KeyList } from './KeyList';
import { Modes, useModes } from './Modes';
import { Pins } from './Pins';
import { TimeShelf } from './TimeShelf';
import { TheirVersion } from './TheirVersion';
import { Versions } from './Versions';
import { keyAct } from './time-lanes';
import { Scopes } from './Scopes';
import { useScopes, withExposure } from './useScopes';
import { StatusLine } from './StatusLine';
import { type BenchStore, isUnsaved } from './store';
import { Strata } from './Strata';
import { useCovering } from './useCovering';
import { useHero } from './useHero';
import { useKeys } from './useKeys';
import { usePlaying } from './usePlaying';
import { useTrims } from './useTrims';
import { useViews } from './useViews';
import { Trials } from './Trials';
import { useTrials } from './useTrials';

/** Frames of the cues that a look asks for. */
const cuesOf = (look: Asking, c: ClipView): number[] =>
  (look.pins ?? []).flatMap((p) => timeOf(c).cues[p.key] ?? []);

interface WorkbenchProps {
  readonly project: ProjectView;
  readonly looks: readonly LookView[];
  readonly store: BenchStore;
  readonly engine: EngineClient;
  /** The requested hero and frame. */
  readonly clip: string | null;
  readonly at: number | null;
  readonly away: AwayFrom | null;
}

/** The Bench with a look. */
export function Workbench({
  project: known,
  looks,
  store,
  engine,
  clip,
  at,
  away,
}: WorkbenchProps) {
  const queries = useQueryClient();
  // This component does not re-render while steps and dials change.
  const look = useAsking(),
    opened = useStore(store, (s) => s.opened);
  const [trouble, setTrouble] = useState<string | null>(null);
  const { project, hero, frame, setFrame, ...heroes } = useHero(store, known, clip, at, setTrouble);
  const [zoom, setZoom] = useState<Zoom>(FIT);
  const [before, setBefore] = useState(false),
    [help, setHelp] = useState(false),
    [versions, setVersions] = useState(false);
  const own = looks.find((l) => l.id === opened.lookId);
  const references = useReferences(project.id).data ?? [];
  const comparing = useComparison(looks, references, project.clips, hero);
  const sheet = useTrials(store, hero.id);
  const modesOf = useStore(store, (s) => s.modesOf),
    modes = useModes(store, hero.id, modesOf);
  const scopes = useScopes();
  const loop = useStore(store, (s) => s.loops[hero.id]);
  const stage = useRef<HTMLDivElement>(null);
  const [isPlaying, setPlaying] = useState(false);
  const baking = useBaking(engine, project, hero, store, isPlaying);
  const [loopFrom, loopTo] = loop ?? [0, lengthOf(hero) - 1];
  const playing = usePlaying(engine, hero, {
    on: isPlaying,
    setOn: setPlaying,
    frame,
    setFrame,
    loop,
    baked:
      baking.states.length > 0 &&
      baking.states.slice(loopFrom, loopTo + 1).every((s) => s === 'baked'),
  });
  const { on, lines, ahead } = playing;
  const played = useMemo(() => (on ? { lines, ahead } : undefined), [on, lines, ahead]);
  const setLoop = (side: 0 | 1) => {
    const now = store.getState();
    const again = loop?.[side] === frame;
    now.loop(
      hero.id,
      again
        ? null
        : side === 0
          ? [frame, Math.max(frame, loopTo)]
          : [Math.min(frame, loopFrom), frame],
    );
  };
  const [rows, setRows] = useStored('companion-rows', 1 as Rows, isRows);
  const companions = useMemo(
    () => pickCompanions(project.clips, hero, rows),
    [project.clips, hero, rows],
  );
  useViews(engine, project, store, {
    hero,
    frame,
    companions,
    playing: played,
    before: comparing.mode !== 'off' || before ? comparing.shot : undefined,
    gain: comparing.mode === 'difference' && !before ? comparing.gain : undefined,
    marks: comparing.marks,
    trials: modesOf === null ? sheet.looks : modes,
    full: zoom.scale !== 'fit',
    scopes: scopes.wanted,
  });

  useTrims(store, project, opened.lookId, setTrouble);
  const covering = useCovering(look, hero, project);
  const seen = seenOf(project, look);
  const setCue = () => {
    const asked = look.pins?.filter((p) => p.kind === 'cue') ?? [];
    const cue = asked.find((p) => lackingPins(look, hero.pins).includes(p)) ?? asked[0];
    if (cue)
      heroes.setPins(
        `${cue.label} of ${hero.name}`,
        withPin(hero.pins, cue, { frame: footageAt(hero, frame) }),
      );
  };
  const lacking = nextLacking(look, opened.lookId, project.clips, hero.id);
  const [saving, setSaving] = useState<LookDocument | null>(null);
  const newest = own?.versions[0]?.number;
  /** Somebody else's version, or that the look is gone; not while one's own is being saved. */
  const overtaken =
    saving === null && (newest === undefined || newest > opened.number) ? { newest } : null;
  const [choosing, setChoosing] = useState(false);
  const save = () => {
    if (isUnsaved(store.getState())) setSaving(store.getState().look);
  };
  const keep = async () => {
    try {
      const version =
        looks.find((l) => l.id === opened.lookId)?.versions.find((v) => v.number === opened.number)
          ?.id ?? null;
      const { look: now, trims } = store.getState();
      await keepHero(project.id, hero, frame, withTrims(now, trims[hero.id]), version);
      await queries.invalidateQueries({ queryKey: ['references', project.id] });
    } catch (e) {
      setTrouble((e as Refused).message);
    }
  };
  const facts = useMemo((): HeroFacts => {
    const own = lookFrame(look.frame, project) ?? project;
    return {
      ...hero,
      project: project.id,
      projectRate: project.rate,
      aspect: own.width / own.height,
    };
  }, [hero, look.frame, project]);
  useKeys(store, {
    onKey: (act) => keyAct(store, facts, frame, setFrame, act),
    frame,
    setFrame,
    last: lengthOf(hero) - 1,
    play: playing.toggle,
    loopFrom: () => setLoop(0),
    loopTo: () => setLoop(1),
    bake: () => (baking.run ? baking.stop() : baking.start(loopFrom, loopTo)),
    fullScreen: () =>
      void (document.fullscreenElement
        ? document.exitFullscreen()
        : stage.current?.requestFullscreen()),
    setBefore,
    toggleMode: comparing.toggle,
    turnSeam: () => comparing.set({ mode: 'seam', upright: !comparing.upright }),
    toggleMarks: () => comparing.set({ marks: !comparing.marks }),
    keepReference: () => void keep(),
    toggleSheet: sheet.toggle,
    toggleTrimming: () =>
      store.getState().trimFor(store.getState().trimming === null ? hero.id : null),
    setCue,
    nextLacking: () => lacking && heroes.choose(lacking.id),
    toggleScopes: scopes.toggle,
    zoom,
    setZoom,
    save,
    help: () => setHelp((h) => !h),
  });

  const tracks = useTracks(hero);
  const traced = (trace: string, pin: string) => {
    const track = tracks.get(trace),
      { lost } = look.pins?.find((p) => p.key === pin) ?? {};
    return track && placeOn(track, momentAt(hero, frame), hero.cuts, lost);
  };

  return (
    <ClipContext value={facts}>
      <BenchHead
        project={project}
        looks={looks}
        references={references}
        comparing={comparing}
        scopes={scopes}
        sheet={sheet}
        away={away}
        onBefore={setBefore}
        onKeep={() => void keep()}
        onSave={save}
        overtaken={overtaken}
        onOvertaken={() => setChoosing(true)}
        onVersions={() => setVersions(true)}
        onHelp={() => setHelp(true)}
        onTrouble={setTrouble}
      />
      <Notice text={trouble} onClose={() => setTrouble(null)} />
      <div className="flex-1 min-h-0 flex">
        <Boundary of="The strata">
          <CoveringContext value={covering}>
            <Strata hero={hero} project={project} onHero={heroes.set} onTry={heroes.tryReframe}>
              <TracksContext value={tracks}>
                <Pins
                  hero={hero}
                  project={project}
                  frame={frame}
                  onPins={heroes.setPins}
                  onTrouble={setTrouble}
                  lacking={lacking}
                  onHero={heroes.choose}
                />
              </TracksContext>
            </Strata>
          </CoveringContext>
        </Boundary>
        <div className="flex-1 min-w-0 flex flex-col">
          <Boundary of="The dials">
            <Dials hero={hero} />
          </Boundary>
          <div ref={stage} className="relative flex-1 min-h-0 flex">
            <Boundary of="The picture">
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
                places={(look.pins ?? [])
                  .flatMap((p) => placesOf(p, hero, seen, traced))
                  .filter((p) => kindInFrame(p) === 'point')}
              />
            </Boundary>
            {modesOf !== null && <Modes layer={modesOf} shape={[project.width, project.height]} />}
            {modesOf === null && sheet.open && (
              <Trials sheet={sheet} shape={[project.width, project.height]} />
            )}
            {scopes.wanted && (
              <Scopes
                of={scopes.wanted.of}
                onOf={scopes.setOf}
                parade={scopes.parade}
                onParade={scopes.setParade}
                region={scopes.wanted.region !== null}
                onWhole={() => scopes.setRegion(null)}
                onLevel={(stops) =>
                  store.getState().change('bring lightness back', (now) => withExposure(now, stops))
                }
              />
            )}
          </div>
          <Boundary of="The time shelf">
            <TimeShelf
              clip={hero}
              cues={cuesOf(look, hero)}
              frame={frame}
              playing={playing}
              baking={baking}
              onFrame={setFrame}
            />
          </Boundary>
          <Boundary of="The companions">
            <Companions
              engine={engine}
              clips={companions}
              project={project}
              onHero={heroes.choose}
            />
          </Boundary>
          <StatusLine
            engine={engine}
            clip={hero}
            clips={project.clips}
            rows={rows}
            onRows={setRows}
            onHero={heroes.choose}
            onTrouble={setTrouble}
          />
        </div>
      </div>
      {saving && (
        <SaveVersion
          project={project.id}
          lookId={opened.lookId}
          number={opened.number}
          look={saving}
          onSaved={(number) => store.getState().savedAs(number, saving)}
          onOvertaken={() => setChoosing(true)}
          onTrouble={setTrouble}
          onClose={() => setSaving(null)}
        />
      )}
      {choosing && overtaken && (
        <TheirVersion
          look={own}
          project={project}
          hero={hero}
          onSave={save}
          onClose={() => setChoosing(false)}
        />
      )}
      {help && <KeyList onClose={() => setHelp(false)} />}
      {versions && own && (
        <Versions
          look={own}
          project={project}
          hero={hero}
          onCompare={(id) => comparing.set({ before: { kind: 'version', id }, mode: 'seam' })}
          onClose={() => setVersions(false)}
        />
      )}
    </ClipContext>
  );
}
