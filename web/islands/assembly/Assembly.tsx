import { useQueryClient } from '@tanstack/react-query';
import { useCallback, useEffect, useMemo, useState } from 'react';
import { useStore } from 'zustand';
import {
  type Alignment,
  allPlaces,
  type CutDocument,
  type CutSound,
  cutting,
  endOf,
  lengthOf,
  lengthOfCut,
  LINE_LENGTHS,
  type LineLength,
  inOutOf,
  lastsFor,
  linesOf,
  samplesOf,
  SURE,
  underLook,
} from '../../../core';
import { Notice } from '../../components/Head';
import { useShortcuts } from '../../components/shortcuts';
import { useAppliedLookPictures } from '../../components/useAppliedLookPictures';
import { useStored } from '../../components/useStored';
import { type CutStore, cutStore } from '../../data/cut-store';
import { call } from '../../data/http';
import {
  type AwayFrom,
  Island,
  useBakingOfCut,
  useCutView,
  useEvents,
  useLooks,
  useProject,
} from '../../data/queries';
import type { CutView, LookView, ProjectView, SoundView } from '../../data/views';
import { sized } from '../../domain/views';
import { type Act, Acts } from './Acts';
import { AssemblyHead } from './AssemblyHead';
import { ClipBin } from './ClipBin';
import { MusicPage } from './MusicPage';
import { beatsOfCut, songOf } from './page-of-music';
import { PlacePanel } from './PlacePanel';
import { SoundPanel } from './SoundPanel';
import { useCut, useCutEngine, useWornLooks } from './useCutEngine';
import { useHearing } from './useHearing';
import { Viewer } from './Viewer';
import { WholePanel } from './WholePanel';

/** The Assembly, as an island. */
export const Assembly = ({ project }: { project: string }) => (
  <Island>
    <Loader project={project} />
  </Island>
);

function Loader({ project }: { project: string }) {
  const { data, error } = useProject(project);
  const away = useEvents(project);
  const cut = useCutView(project);
  const [store, setStore] = useState<CutStore>();
  useEffect(() => {
    if (!cut.data) return;
    if (store) store.getState().heard(cut.data);
    else setStore(cutStore(project, cut.data));
  }, [cut.data, project, store]);
  if (!data || !store)
    return <p className="p-6">{error?.message ?? cut.error?.message ?? 'Opening …'}</p>;
  return <Place project={data} away={away} store={store} versions={cut.data?.versions ?? []} />;
}

/** Lines of the picture of the cut: what is baked for it has them too. */
const LINES = 270;
/** Time for which the playhead rests before the exact frame is asked for, ms. */
const RESTS = 180;
/** Frames prepared ahead while playing. */
const AHEAD = 8;
/** Frames of a place that is filled by a still. */
const STILL = 48;
const isLine = (v: unknown): v is string => LINE_LENGTHS.some((l) => `${l.of} ${l.count}` === v);
const NONE: ReadonlySet<string> = new Set();
const NO_LOOKS: readonly LookView[] = [];

function Place({
  project,
  away,
  store,
  versions,
}: {
  project: ProjectView;
  away: AwayFrom | null;
  store: CutStore;
  versions: CutView['versions'];
}) {
  const queries = useQueryClient();
  const state = useStore(store),
    { document } = state;
  const [chosen, setChosen] = useState(NONE);
  const [frame, setFrameTo] = useState(0);
  const [loop, setLoop] = useState(false);
  const [trouble, setTrouble] = useState<string | null>(null);
  const [snaps, setSnaps] = useState(true);
  const [lineName, setLineName] = useStored('line-length', 'bars 2', isLine);
  const line: LineLength = LINE_LENGTHS.find((l) => `${l.of} ${l.count}` === lineName)!;

  const looks = useLooks().data ?? NO_LOOKS;
  const worn = useWornLooks(project);
  const cut = useCut(project, document, worn);
  const { engine, cut: named } = useCutEngine(project, cut, worn);
  const frames = lengthOfCut(document, project.rate);
  const setFrame = useCallback(
    (f: number) => setFrameTo(Math.max(0, Math.min(Math.max(0, frames - 1), f))),
    [frames],
  );
  const { beats, bars } = useMemo(
    () => beatsOfCut(document, project.sounds),
    [document, project.sounds],
  );
  const lines = useMemo(
    () => linesOf(bars.length > 1 ? line : asSeconds(line), frames, project.rate, bars),
    [line, frames, project.rate, bars],
  );
  const clips = useMemo(() => [...project.clips, ...project.plates], [project]);
  const names = useMemo(() => new Map(clips.map((c) => [c.id, c.name])), [clips]);
  const pictures = useAppliedLookPictures(project, clips);
  const known = useMemo(
    (): cutting.Known => ({ rate: project.rate, clip: (id) => cut.clips[id] }),
    [project.rate, cut.clips],
  );
  const { edit, endGesture, undo, redo } = state;

  const places = allPlaces(document).filter((p) => chosen.has(p.key)),
    first = places[0],
    sound = document.sounds.find((s) => chosen.has(s.key));
  const stretch: readonly [number, number] | null = !loop
    ? null
    : places.length > 0
      ? [Math.min(...places.map((p) => p.at)), Math.max(...places.map(endOf))]
      : [0, frames];
  const hearing = useHearing(project.id, project.rate, {
    frame,
    end: frames,
    loop: stretch,
    onFrame: setFrame,
    again: state.kept === 'saved' ? document.sounds : null,
  });

  // The picture under the playhead: from a proxy at once, and exact when it rests.
  const [width, height] = sized(project, LINES);
  const playing = hearing.on;
  useEffect(() => {
    const view = { id: 'hero', clip: '', cut: named, look: null, frame, width, height } as const;
    const ahead = playing ? Array.from({ length: AHEAD }, (_, i) => frame + 1 + i) : undefined;
    engine.request([{ ...view, from: LINES }], undefined, ahead);
    if (playing) return;
    const timer = setTimeout(() => engine.request([{ ...view, from: 'exact' }]), RESTS);
    return () => clearTimeout(timer);
  }, [engine, named, frame, playing, width, height]);

  // What is not saved goes out when the page closes.
  useEffect(() => {
    const leave = (): void => void store.getState().flush(true);
    addEventListener('pagehide', leave);
    return () => removeEventListener('pagehide', leave);
  }, [store]);

  const baking = useBakingOfCut(project.id).data?.run ?? null;
  const attempt = (work: Promise<unknown>): void =>
    void work.then(
      () => queries.invalidateQueries({ queryKey: ['baking', 'cut'] }),
      (e: Error) => setTrouble(e.message),
    );
  const bake = (): void =>
    attempt(
      store
        .getState()
        .flush()
        .then(() =>
          call('POST', `/api/projects/${project.id}/cut/bake`, { width, height, from: frame }),
        ),
    );

  /** Places clips as long as they are, by their own in and out. */
  const place = (ids: readonly string[], row: string, at: number): void =>
    edit(ids.length > 1 ? `place ${ids.length} clips` : 'place a clip', (c) =>
      cutting.placed(
        c,
        row,
        at,
        ids.flatMap((id) => {
          const clip = cut.clips[id];
          if (!clip) return [];
          const own = lengthOf(underLook(clip, clip.look));
          const isStill = clip.frames === 1;
          return [
            {
              clip: id,
              in: inOutOf(clip).in,
              frames: isStill ? STILL : lastsFor(own, project.rate, clip.rate),
            },
          ];
        }),
        (id) => cut.clips[id]?.chance.number ?? 0,
      ),
    );
  const layIn = (s: SoundView): void => {
    const at = document.sounds.length === 0 ? 0 : samplesOf(frame, project.rate);
    edit(`lay in ${s.name}`, (c) =>
      cutting.withSound(c, { sound: s.id, at, from: 0, samples: s.samples, level: 0 }),
    );
  };

  const keys = places.map((p) => p.key);
  const under = document.rows[0]!.places.find((p) => p.at < frame && frame < endOf(p));
  const toSplit = first && first.at < frame && frame < endOf(first) ? first : under;
  const joinable = first && cutting.joined(document, first.key, known);
  const remove = (close: boolean): void => {
    edit(close ? 'take away and close' : 'take away', (c) =>
      [...chosen].reduce(
        (made, key) => cutting.soundChanged(made, key, null),
        cutting.without(c, keys, close),
      ),
    );
    setChosen(NONE);
  };
  const gap = cutting.gapClosed(document, document.rows[0]!.key, frame);
  const clipOf = (id: string) => clips.find((c) => c.id === id);
  const song = songOf(document);
  const [aligning, setAligning] = useState(false);
  /** Lays chosen places in step with the song, by the sounds of their clips. */
  const stepping = async (): Promise<void> => {
    const found = new Map<string, Alignment>(),
      doubtful: string[] = [];
    for (const p of places) {
      const clip = clipOf(p.clip);
      if (!clip || clip.tracks === 0) continue;
      const lies = await alignmentOf(project.id, { clip: clip.id }, song!.sound);
      if (lies && lies.sure >= SURE) found.set(p.key, lies);
      else doubtful.push(clip.name);
    }
    edit('lay in step', (c) => cutting.inStep(c, song!, found, known));
    setTrouble(
      doubtful.length > 0
        ? `Not found in the song, and left where they are: ${[...new Set(doubtful)].join(', ')}.`
        : null,
    );
  };
  /** Puts a new mix in the place of a sound, where the music is the same. */
  const replacing = async (old: CutSound, by: SoundView): Promise<void> => {
    const lies = await alignmentOf(project.id, { sound: by.id }, old.sound);
    edit(`${by.name} instead`, (c) =>
      cutting.soundReplaced(c, old.key, by, {
        offset: lies && lies.sure >= SURE ? lies.offset : 0,
      }),
    );
    setTrouble(
      lies && lies.sure >= SURE
        ? null
        : `${by.name} was not found in what it replaces: it begins where that did.`,
    );
  };
  const busy = (work: Promise<void>): void => {
    setAligning(true);
    attempt(work.finally(() => setAligning(false)));
  };
  const canStep =
    song !== undefined && !aligning && places.some((p) => (clipOf(p.clip)?.tracks ?? 0) > 0);
  const acts: readonly Act[] = [
    {
      name: 'split',
      key: 'S',
      help: 'Cuts the place under the playhead in two',
      run: toSplit && (() => edit('split', (c) => cutting.split(c, toSplit.key, frame, known))),
    },
    {
      name: 'join',
      key: 'J',
      help: 'Joins the chosen place with the one after it, where the footage goes on',
      run: joinable && (() => edit('join', (c) => cutting.joined(c, first.key, known) ?? c)),
    },
    {
      name: 'swap',
      key: 'X',
      help: 'The two chosen places take one another’s clip',
      run:
        keys.length === 2
          ? () => edit('swap', (c) => cutting.swapped(c, keys[0]!, keys[1]!))
          : undefined,
    },
    {
      name: 'to the beat',
      key: 'B',
      help: 'Lays the chosen places end to end, each as many beats long as comes nearest to it',
      run:
        keys.length > 0 && beats.length > 1
          ? () =>
              edit('cut to the beat', (c) =>
                cutting.toBeats(c, keys, beats, beatsFor(places, beats, project.rate), known),
              )
          : undefined,
    },
    {
      name: 'as long',
      key: 'L',
      help: 'Gives all chosen places the length of the first, end to end',
      run:
        keys.length > 1
          ? () =>
              edit('as long as the first', (c) =>
                cutting.lengths(c, keys, () => first!.frames, known),
              )
          : undefined,
    },
    {
      name: aligning ? 'listening …' : 'in step',
      key: 'Y',
      help: 'Lays the chosen takes in step with the song, by their own sound: each slot stays, and shows what was shot to it',
      run: canStep ? () => busy(stepping()) : undefined,
    },
    {
      name: 'close the gap',
      key: 'G',
      help: 'What follows the playhead in the lowest row moves up',
      run: gap === document ? undefined : () => edit('close a gap', () => gap),
    },
    {
      name: 'mix',
      key: 'T',
      help: 'The chosen places come in by a mix of twelve frames',
      run:
        keys.length > 0
          ? () =>
              edit('mix in', (c) =>
                keys.reduce(
                  (made, k) => cutting.withTransition(made, k, { look: 'mix' }, 12, known).cut,
                  c,
                ),
              )
          : undefined,
    },
    {
      name: 'row above',
      key: 'U',
      help: 'A row above all others, for an insert or lettering; chosen places go up',
      run: () =>
        edit('row above', (c) => {
          const made = cutting.withNewRow(c, '');
          return keys.length > 0 ? cutting.moved(made, keys, 0, made.rows.at(-1)!.key) : made;
        }),
    },
    {
      name: 'marker',
      key: 'M',
      help: 'Sets a marker at the playhead, or takes it away',
      run: () =>
        edit('marker', (c) =>
          cutting.marked(
            c,
            frame,
            c.markers.some((m) => m.at === frame) ? '' : `${c.markers.length + 1}`,
          ),
        ),
    },
    {
      name: 'take away',
      key: 'Delete; with Shift what follows moves up',
      help: 'Takes the chosen places and sounds out of the cut',
      run: chosen.size > 0 ? () => remove(false) : undefined,
    },
  ];
  const borders = useMemo(
    () =>
      [...new Set([0, ...allPlaces(document).flatMap((p) => [p.at, endOf(p)])])].sort(
        (a, b) => a - b,
      ),
    [document],
  );
  const nudge = (by: number): void => {
    if (keys.length > 0) edit('move', (c) => cutting.moved(c, keys, by), `nudge ${keys.join(' ')}`);
  };
  useShortcuts((shortcut) => {
    const byKey = acts.find((a) => a.key.toLowerCase() === shortcut);
    const act =
      byKey?.run ??
      {
        space: hearing.toggle,
        left: () => setFrame(frame - 1),
        right: () => setFrame(frame + 1),
        home: () => setFrame(0),
        end: () => setFrame(frames - 1),
        pageup: () => setFrame(borders.findLast((b) => b < frame) ?? 0),
        pagedown: () => setFrame(borders.find((b) => b > frame) ?? frames),
        'shift+left': () => nudge(-1),
        'shift+right': () => nudge(1),
        '[': () =>
          first &&
          edit('trim a beginning', (c) =>
            cutting.trimmedStart(c, first.key, frame - first.at, known),
          ),
        ']': () =>
          first &&
          edit('trim an end', (c) =>
            cutting.trimmedEnd(c, first.key, frame + 1 - endOf(first), known),
          ),
        ',': () => first && edit('slip', (c) => cutting.slipped(c, first.key, -1, known), 'slip'),
        '.': () => first && edit('slip', (c) => cutting.slipped(c, first.key, 1, known), 'slip'),
        '<': () => first && edit('slide', (c) => cutting.slid(c, first.key, -1, known), 'slide'),
        '>': () => first && edit('slide', (c) => cutting.slid(c, first.key, 1, known), 'slide'),
        delete: () => chosen.size > 0 && remove(false),
        'shift+delete': () => chosen.size > 0 && remove(true),
        'mod+a': () => setChosen(new Set(document.rows[0]!.places.map((p) => p.key))),
        'mod+z': undo,
        'mod+shift+z': redo,
        escape: () => setChosen(NONE),
      }[shortcut];
    act?.();
    return act !== undefined;
  });

  const shownClip = first && clipOf(first.clip);
  return (
    <>
      <AssemblyHead
        project={project}
        away={away}
        kept={state.kept}
        undo={state.past.at(-1)?.name}
        redo={state.future[0]?.name}
        onUndo={undo}
        onRedo={redo}
        versions={versions}
        onKeep={(name) =>
          attempt(
            state
              .flush()
              .then(() => call('POST', `/api/projects/${project.id}/cut/versions`, { name }))
              .then(() => queries.invalidateQueries({ queryKey: ['cut', project.id] })),
          )
        }
        onOpen={(n) =>
          attempt(
            call<{ document: CutDocument }>(
              'GET',
              `/api/projects/${project.id}/cut/versions/${n}`,
            ).then((v) => edit(`open version ${n}`, () => v.document)),
          )
        }
      />
      <Notice text={trouble ?? state.trouble} onClose={() => setTrouble(null)} />
      {state.theirs && (
        <div role="alert" className="flex items-center gap-3 px-4 py-2 border-b line">
          <span className="flex-1">
            Somebody else has changed the cut meanwhile. Yours is kept here until you choose.
          </span>
          <button className="word framed" onClick={() => state.settle('theirs')}>
            take theirs
          </button>
          <button className="word framed" onClick={() => state.settle('mine')}>
            keep mine
          </button>
        </div>
      )}
      <div className="flex-1 min-h-0 flex">
        <aside className="w-[384px] flex-none flex flex-col border-r line bg-base-200 min-h-0">
          <Viewer
            project={project}
            engine={engine}
            frame={frame}
            frames={frames}
            lines={height}
            playing={playing}
            loop={loop}
            onPlay={hearing.toggle}
            onLoop={() => setLoop(!loop)}
            onFrame={setFrame}
            baking={baking}
            onBake={bake}
            onStopBaking={() => attempt(call('DELETE', `/api/projects/${project.id}/cut/bake`))}
          />
          {!first && !sound && frames > 0 && (
            <div className="flex-none border-t line px-3 py-1.5">
              <WholePanel cut={document} looks={looks} onEdit={edit} />
            </div>
          )}
          {(first ?? sound) && (
            <div className="flex-none border-t line px-3 py-2 max-h-[46%] scrolls">
              {first && (
                <PlacePanel
                  key={first.key}
                  cut={document}
                  place={first}
                  clip={cut.clips[first.clip]}
                  name={shownClip?.name ?? 'a clip that has gone'}
                  look={
                    shownClip?.look ? `${shownClip.look.name} v${shownClip.look.number}` : 'no look'
                  }
                  known={known}
                  hasSound={(shownClip?.tracks ?? 0) > 0}
                  bench={`/p/${project.id}/bench?clip=${first.clip}`}
                  onEdit={edit}
                  onEnd={endGesture}
                  onSay={(words) => setTrouble(words || null)}
                />
              )}
              {!first && sound && (
                <SoundPanel
                  key={sound.key}
                  cut={document}
                  sound={sound}
                  of={project.sounds.find((s) => s.id === sound.sound)}
                  isSong={song === sound}
                  others={project.sounds.filter((s) => s.id !== sound.sound)}
                  onReplace={(by) => busy(replacing(sound, by))}
                  onEdit={edit}
                  onEnd={endGesture}
                />
              )}
            </div>
          )}
          <ClipBin
            project={project}
            pictures={pictures}
            used={usedIn(document)}
            onPlace={(ids, where) =>
              place(
                ids,
                document.rows[0]!.key,
                where === 'end' ? cutting.rowEnd(document.rows[0]) : frame,
              )
            }
            onSound={layIn}
          />
        </aside>
        <div className="flex-1 min-w-0 flex flex-col">
          <Acts
            acts={acts}
            snaps={snaps}
            onSnaps={() => setSnaps(!snaps)}
            line={bars.length > 1 ? line : asSeconds(line)}
            hasBars={bars.length > 1}
            onLine={(l) => setLineName(`${l.of} ${l.count}`)}
          />
          {frames === 0 && (
            <p className="px-6 pt-10 text-center quiet">
              Nothing stands here yet. Lay in the song, then drag clips onto the page or choose them
              on the left and place them at the end.
            </p>
          )}
          <MusicPage
            cut={document}
            lines={lines}
            beats={beats}
            bars={bars}
            rate={project.rate}
            sounds={project.sounds}
            pictures={pictures}
            aspect={project.width / project.height}
            names={names}
            chosen={chosen}
            frame={frame}
            known={known}
            snaps={snaps}
            onFrame={setFrame}
            onChoose={setChosen}
            onEdit={edit}
            onEnd={endGesture}
            onDrop={place}
          />
        </div>
      </div>
    </>
  );
}

/** Where a clip's own sound, or a sound, lies in another; null where it cannot be told. */
const alignmentOf = (
  project: string,
  of: { readonly clip: string } | { readonly sound: string },
  to: string,
): Promise<Alignment | null> =>
  call<{ found: Alignment | null }>('POST', `/api/projects/${project}/cut/alignment`, {
    ...of,
    to,
  }).then((a) => a.found);

/** Without bars lines count in seconds: two to the bar. */
const asSeconds = (l: LineLength): LineLength =>
  l.of === 'seconds'
    ? l
    : (LINE_LENGTHS.find((o) => o.of === 'seconds' && o.count >= 2 * l.count) ??
      LINE_LENGTHS.at(-1)!);

const usedIn = (cut: CutDocument): ReadonlyMap<string, number> => {
  const used = new Map<string, number>();
  for (const { clip } of allPlaces(cut)) used.set(clip, (used.get(clip) ?? 0) + 1);
  return used;
};

/** Beats that come nearest to the mean length of places, so that all end with the song. */
function beatsFor(
  places: readonly { readonly at: number; readonly frames: number }[],
  beats: readonly number[],
  rate: readonly [number, number],
): number {
  const mean = places.reduce((sum, p) => sum + p.frames, 0) / places.length;
  const perSecond = rate[0] / rate[1],
    each = ((beats.at(-1)! - beats[0]!) / (beats.length - 1)) * perSecond;
  const left = beats.filter((b) => b * perSecond >= places[0]!.at - 1).length;
  return Math.max(1, Math.min(Math.round(mean / each), Math.floor(left / places.length)));
}
