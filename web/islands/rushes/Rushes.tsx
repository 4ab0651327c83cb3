import { useState } from 'react';
import { trackText } from '../../../core';
import { call } from '../../data/http';
import type { ClipView, SoundView } from '../../data/views';
import type { ClipEdit } from '../../../server/clips/clips';
import { editOf, useEditMutation } from '../../data/clip-edits';
import { traceFromFile, trackNow, useChangeTrace } from '../../data/traces';
import { download } from '../../engine/client/files';
import { useChangeSound } from '../../data/sounds';
import { Away, Island, useEvents, useProject } from '../../data/queries';
import { Head, Notice } from '../../components/Head';
import { clipFacts, encodingLabel } from '../../domain/words';
import { Bring } from './Bring';
import { FirstSteps } from './FirstSteps';
import { PlateShelf } from './PlateShelf';
import { sampledAs } from './Samples';
import { Facts } from './Facts';
import { Scrub } from './Scrub';
import { Sounds } from './Sounds';
import { Choices } from '../../components/Choices';
import { type Order, ORDERS, type Shown, SHOWN, sorted, worthALook } from './sorting';

/** A clip before it was split, and the ids of the parts. */
interface Parted {
  readonly clip: ClipView;
  readonly ids: readonly string[];
}

/** Rushes, as an island. */
export const Rushes = ({ project }: { project: string }) => (
  <Island>
    <Place project={project} />
  </Island>
);

function Place({ project }: { project: string }) {
  const { data, error } = useProject(project);
  const away = useEvents(project);
  const [chosen, setChosen] = useState<readonly string[]>([]);
  const [order, setOrder] = useState<Order>('as brought'),
    [shown, setShown] = useState<Shown>('all'),
    [typed, setTyped] = useState('');
  const [trouble, setTrouble] = useState<string | null>(null),
    [parted, setParted] = useState<Parted | null>(null),
    [gone, setGone] = useState<SoundView | null>(null);
  const sending = useEditMutation(project);
  const changeTrace = useChangeTrace(project),
    changeSound = useChangeSound(project);
  const attempt = (work: Promise<unknown>) => void work.catch((e: Error) => setTrouble(e.message));
  const edit = (edits: readonly ClipEdit[]) =>
    attempt(sending(edits).then((refused) => refused && setTrouble(refused.message)));
  const split = async (clip: ClipView, frames: readonly number[]): Promise<void> => {
    const { ids } = await call<{ ids: string[] }>('POST', `/api/clips/${clip.id}/split`, {
      frames,
    });
    setParted({ clip, ids });
  };
  /** Undoes a split. */
  const together = async ({ clip, ids }: Parted): Promise<void> => {
    const now = data?.clips.find((c) => c.id === clip.id);
    await Promise.all(ids.map((id) => call('DELETE', `/api/clips/${id}`)));
    if (now) edit([editOf(now, { inOut: clip.inOut })]);
    setParted(null);
  };
  if (!data) return <p className="p-6">{error ? error.message : 'Opening …'}</p>;
  const [clips, plates] = [data.clips, data.plates].map((some) =>
    sorted(some, order, shown, typed),
  ) as [ClipView[], ClipView[]];
  const brought = [...clips, ...plates],
    isEmpty = data.clips.length + data.plates.length + data.sounds.length === 0;
  const some = brought.filter((c) => chosen.includes(c.id));
  const all = some.length > 0 ? some : brought.slice(0, 1);
  const clip = all.find((c) => c.id === chosen.at(-1)) ?? all[0];
  /** Ctrl toggles a clip, Shift selects a range. */
  const choose = (id: string, e: React.MouseEvent) => {
    if (e.ctrlKey || e.metaKey)
      return setChosen(
        chosen.includes(id) ? chosen.filter((c) => c !== id) : [...all.map((c) => c.id), id],
      );
    const ids = brought.map((c) => c.id);
    const [from, to] = [ids.indexOf(clip?.id ?? id), ids.indexOf(id)];
    setChosen(
      e.shiftKey
        ? [...ids.slice(Math.min(from, to), Math.max(from, to) + 1).filter((c) => c !== id), id]
        : [id],
    );
  };
  return (
    <Bring project={project} imports={data.imports} onTrouble={setTrouble}>
      {(chooser) => (
        <>
          <Head
            help="rushes"
            title={
              <>
                {data.name} <span className="quiet font-normal">· Rushes</span>
              </>
            }
          >
            <Away away={away} project={project} />
            <span className="num quiet">
              {data.clips.length} {data.clips.length === 1 ? 'clip' : 'clips'}
              {data.plates.length > 0 &&
                `, ${data.plates.length} ${data.plates.length === 1 ? 'plate' : 'plates'}`}
              {data.sounds.length > 0 &&
                `, ${data.sounds.length} ${data.sounds.length === 1 ? 'sound' : 'sounds'}`}{' '}
              · frame {data.width}×{data.height}
            </span>
            {chooser}
          </Head>
          <Notice text={trouble} onClose={() => setTrouble(null)} />
          {parted && (
            <Done
              words={`${parted.clip.name} is ${parted.ids.length + 1} clips now.`}
              undo="put back together"
              onUndo={() => attempt(together(parted))}
              onFine={() => setParted(null)}
            />
          )}
          {gone && (
            <Done
              words={`${gone.name} was taken away.`}
              undo="put it back"
              onUndo={() =>
                attempt(changeSound(gone.id, { removed: false }).then(() => setGone(null)))
              }
              onFine={() => setGone(null)}
            />
          )}
          <div className="flex-1 min-h-0 flex">
            <div className="flex-1 min-w-0 flex flex-col">
              {!isEmpty && (
                <div className="flex-none h-9 flex items-center gap-4 px-4 border-b line">
                  <Choices label="sorted" options={ORDERS} value={order} onValue={setOrder} />
                  <Choices label="shown" options={SHOWN} value={shown} onValue={setShown} />
                  <input
                    className="field w-40"
                    type="search"
                    aria-label="Find a clip by its name"
                    placeholder="find by name"
                    value={typed}
                    onChange={(e) => setTyped(e.target.value)}
                  />
                </div>
              )}
              <ul className="flex-1 min-h-0 scrolls p-4 grid gap-3 content-start grid-cols-[repeat(auto-fill,minmax(210px,1fr))]">
                {clips.map((c) => (
                  <Card key={c.id} clip={c} chosen={all.includes(c)} onChoose={choose} />
                ))}
                {plates.length > 0 && (
                  <li className="col-span-full border-t line pt-2">
                    <h2 className="font-semibold">
                      Plates{' '}
                      <span className="quiet font-normal">
                        used by looks, not shown on the Wall and not delivered
                      </span>
                    </h2>
                  </li>
                )}
                {plates.map((c) => (
                  <Card key={c.id} clip={c} chosen={all.includes(c)} onChoose={choose} />
                ))}
                {isEmpty && (
                  <li className="col-span-full">
                    <FirstSteps />
                  </li>
                )}
                {data.sounds.length > 0 && (
                  <li className="col-span-full border-t line pt-2">
                    <Sounds
                      sounds={data.sounds}
                      onName={(s, name) => attempt(changeSound(s.id, { name }))}
                      onBeats={(s, beats) => attempt(changeSound(s.id, { beats }))}
                      onRemove={(s) =>
                        attempt(changeSound(s.id, { removed: true }).then(() => setGone(s)))
                      }
                      onTrouble={setTrouble}
                    />
                  </li>
                )}
                {data.clips.length + data.plates.length > 0 && brought.length === 0 && (
                  <li className="col-span-full quiet">
                    {shown === 'all'
                      ? 'No clip is called so.'
                      : 'Nothing here was guessed, and no file is unusual.'}{' '}
                    <button
                      className="word"
                      onClick={() => {
                        setShown('all');
                        setTyped('');
                      }}
                    >
                      show all
                    </button>
                  </li>
                )}
              </ul>
              {clip?.role === 'plate' && (
                <PlateShelf
                  plate={clip}
                  project={data}
                  onPoints={(plate) => edit([editOf(clip, { plate })])}
                />
              )}
            </div>
            {clip && (
              <Facts
                key={clip.id}
                clip={clip}
                count={all.length}
                onChange={(change) =>
                  edit((change.name === undefined ? all : [clip]).map((c) => editOf(c, change)))
                }
                onSamples={(kind, value) =>
                  edit(all.map((c) => editOf(c, { sampling: sampledAs(c, kind, value) })))
                }
                onProgressive={(each) =>
                  attempt(call('POST', `/api/clips/${clip.id}/progressive`, { each }))
                }
                traces={{
                  onName: (trace, name) => attempt(changeTrace(trace, { name })),
                  onSave: (trace) =>
                    attempt(
                      trackNow(trace).then((track) =>
                        download(
                          `${trace.name}.json`,
                          trackText(track, '.json'),
                          'application/json',
                        ),
                      ),
                    ),
                  onBring: (file) => attempt(traceFromFile(clip, file)),
                }}
                onGaps={(gaps) => attempt(call('POST', `/api/clips/${clip.id}/gaps`, { gaps }))}
                onCuts={(cutsSaid) => edit([editOf(clip, { cutsSaid })])}
                onInOut={(inOut) => edit([editOf(clip, { inOut })])}
                onSplit={(frames) => attempt(split(clip, frames))}
                onDouble={() => attempt(call('POST', `/api/clips/${clip.id}/double`))}
                onRemove={() =>
                  attempt(Promise.all(all.map((c) => call('DELETE', `/api/clips/${c.id}`))))
                }
              />
            )}
          </div>
        </>
      )}
    </Bring>
  );
}

interface DoneProps {
  readonly words: string;
  readonly undo: string;
  readonly onUndo: () => void;
  readonly onFine: () => void;
}
/** Says what was done, and offers to undo it. */
const Done = ({ words, undo, onUndo, onFine }: DoneProps) => (
  <p role="status" className="flex-none flex items-center gap-3 px-4 py-1.5 border-b line">
    {words}
    <button className="word" onClick={onUndo}>
      {undo}
    </button>
    <button className="word quiet" onClick={onFine}>
      fine
    </button>
  </p>
);

interface CardProps {
  readonly clip: ClipView;
  readonly chosen: boolean;
  readonly onChoose: (id: string, e: React.MouseEvent) => void;
}
function Card({ clip, chosen, onChoose }: CardProps) {
  const unusual = worthALook(clip);
  return (
    <li>
      <button
        onClick={(e) => onChoose(clip.id, e)}
        aria-pressed={chosen}
        className={`block w-full text-left rounded-sm bg-base-200 border ${chosen ? 'border-primary' : 'line'}`}
      >
        <Scrub clip={clip} />
        <span className="block px-2 py-1.5">
          <span className="flex gap-2">
            <span className="flex-1 truncate font-medium" title={clip.name}>
              {clip.name}
            </span>
            <span className="quiet">{encodingLabel(clip.encoding)}</span>
          </span>
          <span className="num quiet block">{clipFacts(clip)}</span>
          {unusual.length > 0 && (
            <span className="block truncate text-warning">{unusual.join(' · ')}</span>
          )}
        </span>
      </button>
    </li>
  );
}
