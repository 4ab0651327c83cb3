import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { emptyLook, type LookDocument } from '../../../core';
import { type LookPackage, PACKAGE_ENDING } from '../../../core/formats';
import { call } from '../../api/client';
import type { LookView, ProjectView, VersionView } from '../../api/views';
import { bakedCube, download, packLook, readLookFile } from '../../engine/files';
import { Island, useLooks, useProject } from '../shared/data';
import { FileButton } from '../shared/FileButton';
import { Head, Notice } from '../shared/Head';
import { packaged } from './packages';
import { Pieces } from './Pieces';
import { Preview } from './Preview';

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
  return (
    <>
      <Head
        title={
          <>
            {data?.name ?? ''} <span className="quiet font-normal">· Shelf</span>
          </>
        }
      >
        <form
          className="flex gap-2"
          onSubmit={(e) => {
            e.preventDefault();
            void make(emptyLook(name.trim(), Math.floor(Math.random() * 1e6)), true);
          }}
        >
          <input
            className="field w-44"
            placeholder="name of a new look"
            aria-label="Name of a new look"
            required
            maxLength={80}
            value={name}
            onChange={(e) => setName(e.target.value)}
          />
          <button className="word main">New look</button>
        </form>
        <FileButton label="Look file" accept={`${PACKAGE_ENDING},.json,application/json`} onFile={(f) => void bring(f)}>
          Import look
        </FileButton>
      </Head>
      <Notice text={trouble} onClose={() => setTrouble(null)} />
      <ul className="flex-1 scrolls p-4 flex flex-col">
        {looks.data?.map((l) => (
          <Look
            key={l.id}
            project={data}
            look={l}
            used={data?.clips.filter((c) => c.look?.lookId === l.id).map((c) => c.name) ?? []}
            onOpen={() => bench(l.id)}
            onTrouble={setTrouble}
            onCopy={(d) => void make(d, false)}
            onGone={() => void queries.invalidateQueries()}
          />
        ))}
        {brought && data && (
          <Preview
            brought={brought}
            project={data}
            onTake={() => void make(brought.look, false).then(() => setBrought(null))}
            onClose={() => setBrought(null)}
          />
        )}
        {looks.data?.length === 0 && <li className="py-16 text-center quiet">No looks yet. Name a new one above, or import a look file.</li>}
      </ul>
      <Pieces onTrouble={setTrouble} />
    </>
  );
}

const CUBE_SIDE = 33;

interface LookProps {
  readonly project: ProjectView | undefined;
  readonly look: LookView;
  readonly used: readonly string[];
  readonly onOpen: () => void;
  readonly onTrouble: (t: string) => void;
  readonly onCopy: (d: LookDocument) => void;
  readonly onGone: () => void;
}

function Look({ project, look, used, onOpen, onTrouble, onCopy, onGone }: LookProps) {
  const [sure, setSure] = useState(false);
  const newest = look.versions[0]!;
  const fetched = (f: (v: VersionView) => void) =>
    void call<VersionView>('GET', `/api/versions/${newest.id}`).then(f, (e: Error) => onTrouble(e.message));
  const fileName = (v: VersionView) => `${look.name.toLowerCase().replace(/[^a-z0-9]+/g, '-')}-v${v.number}`;
  const [packing, setPacking] = useState(false);
  const pack = async (v: VersionView) => {
    if (!project) return;
    setPacking(true);
    const packed = await packLook(await packaged(v.document, v.lookId, v.number, project));
    setPacking(false);
    if ('trouble' in packed) onTrouble(packed.trouble);
    else download(`${fileName(v)}${PACKAGE_ENDING}`, packed.bytes, 'application/zip');
  };
  const [baking, setBaking] = useState<string | null>(null);
  const bake = async (v: VersionView) => {
    setBaking('baking …');
    const baked = await bakedCube(v.document, CUBE_SIDE);
    if ('trouble' in baked) {
      setBaking(null);
      return onTrouble(baked.trouble);
    }
    setBaking(`baked, largest error ${baked.largestError.toFixed(5)}`);
    download(`${fileName(v)}.cube`, baked.text, 'text/plain');
  };
  return (
    <li className="grid grid-cols-[200px_1fr_auto] gap-4 items-center border-b line py-2.5" data-look={look.name}>
      <span>
        <button className="font-semibold text-left hover:underline" onClick={onOpen}>
          {look.name}
        </button>
        <span className="num quiet block">
          {look.versions.length} version{look.versions.length === 1 ? '' : 's'} · newest v{newest.number}
        </span>
      </span>
      <span className="quiet truncate">{used.length > 0 ? `on ${used.join(', ')}` : 'on no clip of this project'}</span>
      <span className="flex gap-1">
        {sure ? (
          <>
            <span className="self-center">Clips lose this look.</span>
            <button
              className="word framed"
              onClick={() => void call('DELETE', `/api/looks/${look.id}`).then(onGone, (e: Error) => onTrouble(e.message))}
            >
              Remove
            </button>
            <button className="word" onClick={() => setSure(false)}>
              keep
            </button>
          </>
        ) : (
          <>
            <button className="word framed" onClick={onOpen}>
              open on the Bench
            </button>
            <button className="word" onClick={() => fetched((v) => onCopy({ ...v.document, name: `${v.document.name} copy` }))}>
              duplicate
            </button>
            <button
              className="word"
              title="As one file: the look and pictures of it"
              disabled={packing || !project}
              onClick={() => fetched((v) => void pack(v))}
            >
              {packing ? 'packing …' : 'export'}
            </button>
            <button
              className="word"
              title={`A look of colour steps alone as a cube of ${CUBE_SIDE} entries a side`}
              disabled={baking === 'baking …'}
              onClick={() => fetched((v) => void bake(v))}
            >
              {baking ?? 'bake to .cube'}
            </button>
            <button className="word quiet" onClick={() => setSure(true)}>
              remove …
            </button>
          </>
        )}
      </span>
    </li>
  );
}
