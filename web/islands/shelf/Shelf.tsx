import { useQueries, useQueryClient } from '@tanstack/react-query';
import { useEffect, useMemo, useRef, useState } from 'react';
import { edit, emptyLook, type LookDocument, stepOf, allLayers } from '../../../core';
import { type LookPackage, PACKAGE_ENDING } from '../../../core/formats';
import { call } from '../../data/http';
import type { ClipView, LookView, PieceView, ProjectView, VersionView } from '../../data/views';
import { readLookFile } from '../../engine/client/files';
import { takeLooks } from '../../data/uploads';
import { Choice } from '../../components/Choice';
import { dataOf, Island, useLooks, usePieces, useProject, versionQuery } from '../../data/queries';
import { FileButton } from '../../components/FileButton';
import { Head, Notice } from '../../components/Head';
import { type LookPicture, useLookPictures } from '../../components/useLookPictures';
import { dialsOf, type LookActs } from './look';
import { LookPanel } from './LookPanel';
import { Pieces } from './Pieces';
import { bringPlates } from './packages';
import { Preview } from './Preview';

/** The Shelf, as an island. */
export const Shelf = ({ project }: { project: string }) => (
  <Island>
    <Place project={project} />
  </Island>
);

function Place({ project }: { project: string }) {
  const { data } = useProject(project);
  const looks = useLooks();
  const queries = useQueryClient();
  const [trouble, setTrouble] = useState<string | null>(null);
  const [name, setName] = useState('');
  const [sought, setSought] = useState('');
  const bench = (look: string) => {
    location.href = `/p/${project}/bench?look=${look}`;
  };
  const make = (document: LookDocument, open: boolean) =>
    call<{ lookId: string }>('POST', '/api/looks', { document }).then(
      (m) => (open ? bench(m.lookId) : void queries.invalidateQueries({ queryKey: ['looks'] })),
      (e: Error) => setTrouble(e.message),
    );
  const [brought, setBrought] = useState<LookPackage | null>(null);
  const bring = async (f: File) => {
    const read = await readLookFile(f);
    if ('trouble' in read) setTrouble(read.trouble);
    else setBrought(read.value);
  };
  const latest = useRef(bring);
  latest.current = bring;
  useEffect(() => takeLooks((f) => void latest.current(f)), []);
  return (
    <>
      <Head
        help="shelf"
        title={
          <>
            {data?.name ?? ''} <span className="quiet font-normal">· Shelf</span>
          </>
        }
      >
        <input
          type="search"
          className="field w-40"
          placeholder="search"
          aria-label="Search the Shelf"
          value={sought}
          onChange={(e) => setSought(e.target.value)}
        />
        <form
          className="flex gap-2"
          onSubmit={(e) => {
            e.preventDefault();
            void make(emptyLook(name.trim(), Math.floor(Math.random() * 1e6)), true);
          }}
        >
          <input
            className="field w-40"
            placeholder="name of a new look"
            aria-label="Name of a new look"
            required
            maxLength={80}
            value={name}
            onChange={(e) => setName(e.target.value)}
          />
          <button className="word main">New look</button>
        </form>
        <FileButton
          label="Look file"
          accept={`${PACKAGE_ENDING},.json,application/json,.png,image/png`}
          onFile={(f) => void bring(f)}
        >
          Import look
        </FileButton>
      </Head>
      <Notice text={trouble} onClose={() => setTrouble(null)} />
      {looks.data?.length === 0 && (
        <p className="py-16 text-center quiet">
          No looks yet. Name a new one above, or import a look file.
        </p>
      )}
      {data && looks.data && looks.data.length > 0 && (
        <Looks
          project={data}
          looks={looks.data}
          sought={sought}
          onOpen={bench}
          onTrouble={setTrouble}
          onCopy={(d) => void make(d, false)}
          onGone={() => void queries.invalidateQueries()}
        />
      )}
      {brought && data && (
        <Preview
          brought={brought}
          project={data}
          onTake={() =>
            void make(brought.look, false).then(async () => {
              setBrought(null);
              const refused = await bringPlates(project, brought.plates ?? []);
              if (refused.length > 0) setTrouble(refused.join('; '));
            })
          }
          onClose={() => setBrought(null)}
        />
      )}
    </>
  );
}

interface LooksProps extends LookActs {
  readonly project: ProjectView;
  readonly looks: readonly LookView[];
  readonly sought: string;
}

/** The searched text of a look: name, dials, steps. */
const wordsOf = (l: LookView, v: VersionView | undefined): string =>
  [
    l.name,
    ...(v?.document.dials.map((d) => d.label) ?? []),
    ...(v
      ? allLayers(v.document).flatMap((layer) =>
          layer.steps.map((s) => stepOf(s.step)?.label ?? ''),
        )
      : []),
  ]
    .join(' ')
    .toLowerCase();

/** The clip that shows looks best: the one with the most pins set. */
const telling = (clips: readonly ClipView[]): ClipView | undefined =>
  [...clips].sort((a, b) => Object.keys(b.pins).length - Object.keys(a.pins).length)[0];
const SEEN_ON = 'wabisabi-shelf-clip';
const NO_PIECES: readonly PieceView[] = [];
/**
 * Delay (ms) before a look under the pointer is shown large, because the pointer crosses others on
 * its way.
 */
const DWELL = 220;

function Looks({ project, looks, sought, ...acts }: LooksProps) {
  const fetched = useQueries({
    queries: looks.map((l) => versionQuery(l.versions[0]!.id)),
    combine: dataOf,
  });
  const pieces = usePieces().data ?? NO_PIECES;
  const [seenOn, setSeenOn] = useState<string | null>(() =>
    localStorage.getItem(`${SEEN_ON}:${project.id}`),
  );
  const clip = project.clips.find((c) => c.id === seenOn) ?? telling(project.clips);
  const [shown, setShown] = useState<string | null>(null);
  const pointing = useRef<ReturnType<typeof setTimeout>>(undefined);
  const versions = useMemo(() => new Map(fetched.map((v) => [v.lookId, v])), [fetched]);
  const found = useMemo(
    () => looks.filter((l) => wordsOf(l, versions.get(l.id)).includes(sought.trim().toLowerCase())),
    [looks, versions, sought],
  );
  const large =
    found.find((l) => l.id === shown) ??
    found.find((l) => project.clips.some((c) => c.look?.lookId === l.id)) ??
    found[0];
  const wanted = useMemo((): LookPicture[] => {
    if (!clip) return [];
    const of = (id: string, look: LookDocument): LookPicture => ({ id, clip, look });
    const largest = large && versions.get(large.id)?.document;
    return [
      ...(largest ? [of(large.id, largest)] : []),
      ...found.flatMap((l) => (versions.get(l.id) ? [of(l.id, versions.get(l.id)!.document)] : [])),
      ...(largest
        ? dialsOf(largest).flatMap((d) => [
            of(`${large.id}:${d.key}:min`, edit.setDial(largest, d.key, d.min!)),
            of(`${large.id}:${d.key}:max`, edit.setDial(largest, d.key, d.max!)),
          ])
        : []),
      ...pieces.map((p) => of(`piece:${p.id}`, { ...p.document, bedrock: true })),
    ];
  }, [clip, large, versions, found, pieces]);
  const pictures = useLookPictures(project, wanted);
  const point = (id: string, wait = DWELL) => {
    clearTimeout(pointing.current);
    pointing.current = setTimeout(() => setShown(id), wait);
  };
  return (
    <div className="flex-1 min-h-0 flex">
      <div className="flex-1 min-w-0 scrolls p-4 flex flex-col gap-4">
        {project.clips.length > 0 && (
          <label className="flex items-center gap-2">
            <span className="quiet">seen on</span>
            <Choice
              className="field"
              aria-label="The clip that looks are seen on"
              value={clip?.id ?? ''}
              onChange={(id) => {
                localStorage.setItem(`${SEEN_ON}:${project.id}`, id);
                setSeenOn(id);
              }}
            >
              {project.clips.map((c) => (
                <option key={c.id} value={c.id}>
                  {c.name}
                </option>
              ))}
            </Choice>
          </label>
        )}
        {project.clips.length === 0 && (
          <p className="quiet">
            This project has no clips yet: bring some in on Rushes to see its looks.
          </p>
        )}
        {found.length === 0 && (
          <p className="py-8 text-center quiet">
            No look has “{sought}” in its name, its dials or its steps.
          </p>
        )}
        <ul
          className="grid grid-cols-[repeat(auto-fill,minmax(220px,1fr))] gap-x-4 gap-y-5"
          aria-label="Looks"
        >
          {found.map((l) => (
            <Card
              key={l.id}
              look={l}
              shown={l === large}
              url={pictures.get(l.id)}
              project={project}
              onPoint={(wait) => point(l.id, wait)}
              onLeave={() => clearTimeout(pointing.current)}
              onOpen={() => acts.onOpen(l.id)}
            />
          ))}
        </ul>
        <Pieces pieces={pieces} pictures={pictures} onTrouble={acts.onTrouble} />
      </div>
      {large && (
        <LookPanel
          key={large.id}
          project={project}
          look={large}
          version={versions.get(large.id)}
          pictures={pictures}
          {...acts}
        />
      )}
    </div>
  );
}

interface CardProps {
  readonly look: LookView;
  readonly shown: boolean;
  readonly url: string | undefined;
  readonly project: ProjectView;
  readonly onPoint: (wait?: number) => void;
  readonly onLeave: () => void;
  readonly onOpen: () => void;
}

function Card({ look, shown, url, project, onPoint, onLeave, onOpen }: CardProps) {
  const used = project.clips.filter((c) => c.look?.lookId === look.id).map((c) => c.name);
  return (
    <li data-look={look.name}>
      <button
        className="block w-full text-left group"
        aria-pressed={shown}
        aria-label={`${look.name}, shown large`}
        title="Enter opens it on the Bench"
        onPointerEnter={() => onPoint()}
        onPointerLeave={onLeave}
        onFocus={() => onPoint(0)}
        onClick={() => onPoint(0)}
        onDoubleClick={onOpen}
        onKeyDown={(e) => {
          if (e.key !== 'Enter') return;
          e.preventDefault();
          onOpen();
        }}
      >
        <span
          className={`block bg-base-300 outline-offset-2 ${shown ? 'outline outline-1 outline-primary' : ''}`}
          style={{ aspectRatio: `${project.width}/${project.height}` }}
        >
          {url && (
            <img
              src={url}
              alt={`${look.name} on a clip of this project`}
              className="w-full h-full object-contain"
            />
          )}
        </span>
        <span className="flex items-baseline gap-2 mt-1">
          <span className="font-semibold truncate">{look.name}</span>
          <span className="num quiet ml-auto whitespace-nowrap">
            {look.versions.length} version{look.versions.length === 1 ? '' : 's'}
          </span>
        </span>
        <span className="quiet block truncate">
          {used.length > 0 ? `on ${used.join(', ')}` : 'on no clip yet'}
        </span>
      </button>
    </li>
  );
}
