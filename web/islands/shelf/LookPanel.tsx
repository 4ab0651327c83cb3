import { useRef, useState } from 'react';
import { SHIPPED } from '../../../core';
import { PACKAGE_ENDING } from '../../../core/formats';
import { call } from '../../data/http';
import type { ClipView, LookView, ProjectView, VersionView } from '../../data/views';
import { bakedCube, cardOf, download, packLook } from '../../engine/client/files';
import { editOf, useEditMutation } from '../../data/clip-edits';
import { drawnCard, packaged, platesOf } from './packages';
import { dialsOf, type LookActs } from './look';

const CUBE_SIDE = 33;

interface Props extends LookActs {
  readonly project: ProjectView;
  readonly look: LookView;
  /** Its newest version, once loaded. */
  readonly version: VersionView | undefined;
  readonly pictures: ReadonlyMap<string, string>;
}

/** A look in detail: the ends of its dials' ranges, the clips that wear it, and actions. */
export function LookPanel({
  project,
  look,
  version,
  pictures,
  onOpen,
  onTrouble,
  onCopy,
  onGone,
}: Props) {
  const help = SHIPPED.find((s) => s.look.name === look.name)?.help;
  const ratio = { aspectRatio: `${project.width}/${project.height}` };
  return (
    <aside
      aria-label={look.name}
      className="w-[372px] flex-none border-l line scrolls p-4 flex flex-col gap-3"
    >
      <span className="block bg-base-300 flex-none" style={ratio}>
        {pictures.get(look.id) && (
          <img
            src={pictures.get(look.id)}
            alt={`${look.name}, large`}
            className="w-full h-full object-contain"
          />
        )}
      </span>
      <div>
        <h2 className="font-semibold">
          {look.name} <span className="num quiet font-normal">v{look.versions[0]!.number}</span>
        </h2>
        {help && <p className="quiet">{help}</p>}
      </div>
      <Acts
        project={project}
        look={look}
        version={version}
        onOpen={onOpen}
        onTrouble={onTrouble}
        onCopy={onCopy}
        onGone={onGone}
      />
      <Wearers project={project} look={look} onTrouble={onTrouble} />
      {version && dialsOf(version.document).length > 0 && (
        <ul aria-label={`Dials of ${look.name} from end to end`} className="flex flex-col gap-2">
          {dialsOf(version.document).map((d) => (
            <li key={d.key} className="grid grid-cols-2 gap-x-2">
              <span className="col-span-2">{d.label}</span>
              {(['min', 'max'] as const).map((end) => {
                const url = pictures.get(`${look.id}:${d.key}:${end}`);
                return (
                  <span key={end} className="relative block bg-base-300" style={ratio}>
                    {url && (
                      <img
                        src={url}
                        alt={`${d.label} at ${d[end]} ${d.unit ?? ''}`}
                        className="w-full h-full object-contain"
                      />
                    )}
                    <span className="num absolute left-0 bottom-0 bg-base-100 px-1">
                      {d[end]} {d.unit}
                    </span>
                  </span>
                );
              })}
            </li>
          ))}
        </ul>
      )}
    </aside>
  );
}

/** The clips of the project; a click puts the look on a clip, or restores its previous look. */
function Wearers({ project, look, onTrouble }: Pick<Props, 'project' | 'look' | 'onTrouble'>) {
  const send = useEditMutation(project.id);
  const before = useRef(new Map<string, string | null>());
  const newest = look.versions[0]!.id;
  const put = (clips: readonly ClipView[], on: boolean) => {
    const edits = clips.map((c) => {
      if (on) before.current.set(c.id, c.look?.versionId ?? null);
      return editOf(c, { version: on ? newest : (before.current.get(c.id) ?? null) });
    });
    if (edits.length > 0) void send(edits).then((refused) => refused && onTrouble(refused.message));
  };
  if (project.clips.length === 0) return null;
  const without = project.clips.filter((c) => c.look?.lookId !== look.id);
  return (
    <section aria-label={`Clips that wear ${look.name}`}>
      <div className="flex items-center gap-2 mb-1">
        <h3 className="quiet mr-auto">worn by</h3>
        <button className="word" disabled={without.length === 0} onClick={() => put(without, true)}>
          all clips
        </button>
      </div>
      <ul className="flex flex-wrap gap-1">
        {project.clips.map((c) => {
          const isApplied = c.look?.lookId === look.id;
          return (
            <li key={c.id}>
              <button
                className={`word ${isApplied ? 'framed' : 'quiet'}`}
                aria-pressed={isApplied}
                title={
                  isApplied ? 'take it off' : c.look ? `wears ${c.look.name}` : 'wears no look'
                }
                onClick={() => put([c], !isApplied)}
              >
                {c.name}
              </button>
            </li>
          );
        })}
      </ul>
    </section>
  );
}

function Acts({
  project,
  look,
  version,
  onOpen,
  onTrouble,
  onCopy,
  onGone,
}: Omit<Props, 'pictures'>) {
  const [sure, setSure] = useState(false),
    [packing, setPacking] = useState(false),
    [withPlates, setWithPlates] = useState(false),
    [baking, setBaking] = useState<string | null>(null);
  const fileName = (v: VersionView) =>
    `${look.name.toLowerCase().replace(/[^a-z0-9]+/g, '-')}-v${v.number}`;
  const pack = async (v: VersionView) => {
    setPacking(true);
    const packed = await packaged(v.document, v.lookId, v.number, project, withPlates).then(
      packLook,
      (e: Error) => ({ trouble: e.message }),
    );
    setPacking(false);
    if ('trouble' in packed) onTrouble(packed.trouble);
    else download(`${fileName(v)}${PACKAGE_ENDING}`, packed.bytes, 'application/zip');
  };
  const card = async (v: VersionView) => {
    setPacking(true);
    try {
      const png = await drawnCard(v.document, v.lookId, v.number, project);
      const made = await cardOf({ look: v.document, version: v.number, thumbnails: [] }, png);
      if ('trouble' in made) onTrouble(made.trouble);
      else download(`${fileName(v)}.png`, made.bytes, 'image/png');
    } catch (e) {
      onTrouble((e as Error).message);
    }
    setPacking(false);
  };
  const bake = async (v: VersionView) => {
    setBaking('baking …');
    const baked = await bakedCube(v.document, CUBE_SIDE);
    if ('trouble' in baked) {
      setBaking(null);
      return onTrouble(baked.trouble);
    }
    setBaking(`baked, largest error found ${baked.largestError.toFixed(5)}`);
    download(`${fileName(v)}.cube`, baked.text, 'text/plain');
  };
  if (sure)
    return (
      <span className="flex flex-wrap gap-1 items-center">
        <span>Clips lose this look.</span>
        <button
          className="word framed"
          onClick={() =>
            void call('DELETE', `/api/looks/${look.id}`).then(onGone, (e: Error) =>
              onTrouble(e.message),
            )
          }
        >
          Remove
        </button>
        <button className="word" onClick={() => setSure(false)}>
          keep
        </button>
      </span>
    );
  return (
    <span className="flex flex-wrap gap-1 items-center">
      <button className="word main" onClick={() => onOpen(look.id)}>
        open on the Bench
      </button>
      <button
        className="word"
        disabled={!version}
        onClick={() => onCopy({ ...version!.document, name: `${version!.document.name} copy` })}
      >
        duplicate
      </button>
      <button
        className="word"
        title="As one file: the look and pictures of it"
        disabled={packing || !version}
        onClick={() => void pack(version!)}
      >
        {packing ? 'packing …' : 'export'}
      </button>
      {version && platesOf(version.document, version.lookId, project).length > 0 && (
        <label
          className="flex items-center gap-1"
          title="The footage that its pins name comes along in the file"
        >
          <input
            type="checkbox"
            className="checkbox checkbox-xs"
            checked={withPlates}
            onChange={(e) => setWithPlates(e.target.checked)}
          />
          with its plates
        </label>
      )}
      <button
        className="word"
        title="As a picture that carries the look: drop it on a Shelf"
        disabled={packing || !version}
        onClick={() => void card(version!)}
      >
        card
      </button>
      <button
        className="word"
        title={`A look of colour steps alone as a cube of ${CUBE_SIDE} entries a side`}
        disabled={baking === 'baking …' || !version}
        onClick={() => void bake(version!)}
      >
        {baking ?? 'bake to .cube'}
      </button>
      <button className="word quiet ml-auto" onClick={() => setSure(true)}>
        remove …
      </button>
    </span>
  );
}
