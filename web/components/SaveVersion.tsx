import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useEffectEvent, useMemo, useRef, useState } from 'react';
import { type LookDocument, withTrims } from '../../core';
import { call, Refused } from '../data/http';
import type { FollowerView, VersionView } from '../data/views';
import { EngineClient } from '../engine/client/client';
import { Picture } from '../engine/client/Picture';
import type { View } from '../engine/protocol';
import { restingFrame, sized } from '../domain/views';
import { versionQuery } from '../data/queries';

interface Props {
  /** The current project; clips of other projects are shown with their project's name. */
  readonly project: string;
  readonly lookId: string;
  /** Number of the version that was opened. */
  readonly number: number;
  readonly look: LookDocument;
  readonly onSaved: (number: number) => void;
  /** Somebody else saved a version, or removed the look. */
  readonly onOvertaken: () => void;
  readonly onTrouble: (text: string) => void;
  readonly onClose: () => void;
}

/**
 * Saves a version. If clips follow the look, they are shown before and after first, and each may
 * stay at its version.
 */
export function SaveVersion(props: Props) {
  const { lookId, number, look, onSaved, onOvertaken, onTrouble, onClose } = props;
  const queries = useQueryClient();
  const followers = useQuery({
    queryKey: ['followers', lookId],
    queryFn: () => call<FollowerView[]>('GET', `/api/looks/${lookId}/followers`),
    staleTime: 0,
    gcTime: 0,
  });
  const [busy, setBusy] = useState(false);
  const [trouble, setTrouble] = useState<string | null>(null);
  const giveUp = (why: string) => {
    onTrouble(why);
    onClose();
  };
  /** The dialog stays with what was chosen in it, and shows the clips that follow by now. */
  const failed = (e: unknown) => {
    setBusy(false);
    setTrouble((e as Error).message);
    void followers.refetch();
  };
  const save = async (follow: readonly string[], stay: readonly string[]) => {
    setBusy(true);
    try {
      const saved = await call<{ number: number }>('POST', `/api/looks/${lookId}/versions`, {
        document: look,
        basedOn: number,
        follow,
        stay,
      });
      onSaved(saved.number);
      await queries.invalidateQueries();
    } catch (e) {
      const refused = e instanceof Refused ? e : undefined;
      if (refused?.more['newest'] === undefined && refused?.status !== 404)
        return follow.length + stay.length > 0 ? failed(e) : giveUp((e as Error).message);
      await queries.invalidateQueries({ queryKey: ['looks'] });
      onOvertaken();
    }
    onClose();
  };
  const nobody = followers.data?.length === 0;
  const begun = useRef(false);
  const saveAlone = useEffectEvent(() => void save([], []));
  useEffect(() => {
    if (nobody && !begun.current) {
      begun.current = true;
      saveAlone();
    }
  }, [nobody]);
  const giveUpOn = useEffectEvent(giveUp);
  const onGone = useEffectEvent(() => {
    onOvertaken();
    onClose();
  });
  useEffect(() => {
    if (!followers.error) return;
    if (followers.error instanceof Refused && followers.error.status === 404) {
      onGone();
      return;
    }
    giveUpOn(followers.error.message);
  }, [followers.error]);
  if (!followers.data || nobody) return null;
  return (
    <Followers
      {...props}
      followers={followers.data}
      busy={busy}
      trouble={trouble}
      onSave={(follow, stay) => void save(follow, stay)}
    />
  );
}

const LINES = 135,
  MEMORY = 128 * 2 ** 20;

interface FollowersProps extends Props {
  readonly followers: readonly FollowerView[];
  readonly busy: boolean;
  readonly trouble: string | null;
  readonly onSave: (follow: readonly string[], stay: readonly string[]) => void;
}

function Followers({
  project,
  lookId,
  number,
  look,
  followers,
  busy,
  trouble,
  onSave,
  onClose,
}: FollowersProps) {
  const dialog = useRef<HTMLDialogElement>(null);
  useEffect(() => dialog.current?.showModal(), []);
  const [staying, setStaying] = useState<ReadonlySet<string>>(new Set());
  const engine = useMemo(() => new EngineClient('bt709', MEMORY), []);
  useEffect(() => () => engine.close(), [engine]);
  const queries = useQueryClient();
  useEffect(() => {
    let gone = false;
    const applied = [...new Set(followers.map((f) => f.clip.look!.versionId))];
    void Promise.all(applied.map((id) => queries.fetchQuery<VersionView>(versionQuery(id)))).then(
      (versions) => {
        if (gone) return;
        engine.clips(followers.map((f) => f.clip));
        const views = followers.flatMap(({ clip, project: home }): View[] => {
          const [width, height] = sized(home, LINES);
          const shot = { clip: clip.id, from: 270 as const, width, height };
          const own = clip.trims[lookId];
          const before = versions.find((v) => v.id === clip.look!.versionId)!.document;
          const under = (id: string, applied: LookDocument): View => ({
            ...shot,
            id: `${id}:${clip.id}`,
            look: applied,
            frame: restingFrame(clip, applied),
          });
          return [under('before', withTrims(before, own)), under('after', withTrims(look, own))];
        });
        engine.request(views);
      },
    );
    return () => {
      gone = true;
    };
  }, [engine, followers, look, lookId, queries]);
  const toggle = (id: string) => {
    const next = new Set(staying);
    if (!next.delete(id)) next.add(id);
    setStaying(next);
  };
  const going = followers.filter((f) => !staying.has(f.clip.id));
  return (
    <dialog
      ref={dialog}
      aria-label="Save version"
      onClose={onClose}
      className="m-auto bg-base-100 text-base-content border line rounded w-[860px] max-h-[86vh] backdrop:bg-black/50 flex-col open:flex"
    >
      <header className="px-5 py-3 border-b line flex items-baseline gap-3">
        <h2 className="font-semibold">
          Save {look.name} v{number + 1}
        </h2>
        <span className="quiet">
          These clips follow the look: each goes on to the new version, or stays where it is from
          now on.
        </span>
      </header>
      <ul className="flex-1 min-h-0 scrolls p-4 grid grid-cols-2 gap-x-5 gap-y-3">
        {followers.map(({ clip, project: home }) => (
          <li key={clip.id} data-follower={clip.name}>
            <div className="grid grid-cols-2 gap-1">
              {(['before', 'after'] as const).map((side) => (
                <span
                  key={side}
                  className="block bg-base-300"
                  style={{ aspectRatio: `${home.width}/${home.height}` }}
                >
                  <Picture
                    engine={engine}
                    view={`${side}:${clip.id}`}
                    label={`${clip.name} ${side === 'before' ? `under v${clip.look!.number}` : 'under the new version'}`}
                    className="w-full h-full object-contain"
                  />
                </span>
              ))}
            </div>
            <label className="flex items-center gap-2 pt-1">
              <span className="font-medium truncate">{clip.name}</span>
              <span className="quiet truncate">
                v{clip.look!.number} → {staying.has(clip.id) ? 'stays' : `v${number + 1}`}
                {home.id !== project && ` · ${home.name}`}
              </span>
              <input
                type="checkbox"
                className="tick ml-auto"
                aria-label={`${clip.name} goes on to the new version`}
                checked={!staying.has(clip.id)}
                onChange={() => toggle(clip.id)}
              />
            </label>
          </li>
        ))}
      </ul>
      {trouble && (
        <p role="alert" className="px-5 py-2 border-t line">
          {trouble}
        </p>
      )}
      <footer className="px-5 py-3 border-t line flex items-center gap-2">
        <button
          className="word quiet"
          onClick={() =>
            setStaying(staying.size > 0 ? new Set() : new Set(followers.map((f) => f.clip.id)))
          }
        >
          {staying.size > 0 ? 'all go on' : 'all stay'}
        </button>
        <button className="word ml-auto" onClick={onClose}>
          cancel
        </button>
        <button
          className="word main"
          disabled={busy}
          onClick={() =>
            onSave(
              going.map((f) => f.clip.id),
              [...staying],
            )
          }
        >
          save version {number + 1}, {going.length} of {followers.length} go on
        </button>
      </footer>
    </dialog>
  );
}
