import { Check } from 'lucide-react';
import { useRef, useState } from 'react';
import { DELIVERY_FORMATS, type Effort, EFFORTS, type FormatId, soundLeftOut } from '../../../core';
import { Choice } from '../../components/Choice';
import { useAppliedLookPictures } from '../../components/useAppliedLookPictures';
import type { ProjectView } from '../../data/views';
import { rateLabel, seconds } from '../../domain/words';

interface Last {
  readonly format: FormatId;
  readonly coverage: boolean;
  readonly effort: Effort;
  readonly size: readonly [string, string];
}
/** The last choices in this project. */
function useLast(project: ProjectView): [Last, (l: Last) => void] {
  const name = `wabisabi-kiln:${project.id}`;
  const [last] = useState((): Last => {
    const plain: Last = {
      format: 'mp4',
      coverage: false,
      effort: 'usual',
      size: [String(project.width), String(project.height)],
    };
    try {
      return { ...plain, ...(JSON.parse(localStorage.getItem(name) ?? '{}') as Partial<Last>) };
    } catch {
      return plain;
    }
  });
  const keep = (l: Last) => {
    try {
      localStorage.setItem(name, JSON.stringify(l));
    } catch {
      /* without storage only the choices are lost */
    }
  };
  return [last, keep];
}

/** What is delivered: clips one by one, or the cut as one file. */
export type Ordered = 'clips' | 'cut';

/** The form for a new delivery: clips or the whole cut, format and size. */
export function Order({
  project,
  cutFrames,
  onOrder,
}: {
  project: ProjectView;
  /** Frames of the cut; 0 while nothing stands in it. */
  cutFrames: number;
  onOrder: (w: object, what: Ordered) => void;
}) {
  const [what, setWhat] = useState<Ordered>(() =>
    new URLSearchParams(location.search).has('cut') ? 'cut' : 'clips',
  );
  const [off, setOff] = useState<ReadonlySet<string>>(new Set());
  const [last, keepLast] = useLast(project);
  const [format, setFormat] = useState(last.format);
  const [coverage, setCoverage] = useState(last.coverage);
  const [effort, setEffort] = useState(last.effort);
  // A choice of an earlier version may be gone.
  const chosenFormat = DELIVERY_FORMATS.find((f) => f.id === format) ?? DELIVERY_FORMATS[0]!,
    { covers, efforts } = chosenFormat;
  const pictures = useAppliedLookPictures(project, project.clips);
  const anchor = useRef<string>(undefined);
  const sizes = [
    [project.width, project.height],
    [Math.round(project.width / 2), Math.round(project.height / 2)],
    [Math.round(project.width / 4) * 2, Math.round(project.height / 4) * 2],
  ].filter(([w], i, all) => all.findIndex(([v]) => v === w) === i);
  const [size, setSize] = useState<readonly [string, string]>(last.size);
  const chosen = project.clips.filter((c) => !off.has(c.id));
  const leftOut = new Map<string, string[]>();
  for (const c of chosenFormat.makes === 'pictures' ? [] : chosen) {
    const why = soundLeftOut(c.tracks);
    if (why !== undefined) leftOut.set(why, [...(leftOut.get(why) ?? []), c.name]);
  }
  /** Toggles a clip; with Shift, all clips from the previous one get its state. */
  const toggle = (id: string, run: boolean) => {
    const at = (clip: string | undefined) => project.clips.findIndex((c) => c.id === clip);
    const [from, to] =
      run && anchor.current !== undefined
        ? [at(anchor.current), at(id)].sort((a, b) => a - b)
        : [at(id), at(id)];
    const isOff = run && anchor.current !== undefined ? off.has(anchor.current) : !off.has(id);
    setOff((s) => {
      const n = new Set(s);
      for (const c of project.clips.slice(from, to! + 1)) {
        if (isOff) n.add(c.id);
        else n.delete(c.id);
      }
      return n;
    });
    if (!run) anchor.current = id;
  };
  return (
    <form
      aria-label="New delivery"
      className="w-[290px] flex-none border-r line bg-base-200 flex flex-col"
      onSubmit={(e) => {
        e.preventDefault();
        keepLast({ format, coverage, effort, size });
        onOrder(
          {
            ...(what === 'clips' && { clips: chosen.map((c) => c.id) }),
            format: chosenFormat.id,
            width: Number(size[0]),
            height: Number(size[1]),
            coverage: coverage && covers,
            effort,
          },
          what,
        );
      }}
    >
      <div className="px-3 pt-3 pb-2 flex items-baseline gap-1">
        {(['clips', 'cut'] as const).map((w) => (
          <button
            key={w}
            type="button"
            className={`word ${what === w ? 'framed font-semibold' : 'quiet'}`}
            aria-pressed={what === w}
            onClick={() => setWhat(w)}
          >
            {w === 'clips' ? 'Clips' : 'The whole cut'}
          </button>
        ))}
        {what === 'clips' && (
          <>
            <button type="button" className="word ml-auto" onClick={() => setOff(new Set())}>
              all
            </button>
            <button
              type="button"
              className="word"
              onClick={() => setOff(new Set(project.clips.map((c) => c.id)))}
            >
              none
            </button>
          </>
        )}
      </div>
      {what === 'cut' && (
        <p className="flex-1 px-4 pt-1 quiet">
          {cutFrames > 0
            ? `${seconds(cutFrames, project.rate)} at ${rateLabel(project.rate)} frames a second, with its sound, as one file: as the cut stands when you press Render.`
            : 'Nothing stands in the cut yet: place clips and sounds in the Assembly first.'}
        </p>
      )}
      <ul
        className={`flex-1 scrolls px-4 pt-0.5 pb-3 min-h-0 grid grid-cols-2 gap-2 content-start ${what === 'cut' ? 'hidden' : ''}`}
        aria-label="Clips to render"
      >
        {project.clips.map((c) => (
          <li key={c.id}>
            <button
              type="button"
              role="checkbox"
              aria-checked={!off.has(c.id)}
              aria-label={c.name}
              title={`${c.name}: ${c.look ? `${c.look.name} v${c.look.number}` : 'no look'}; with the shift key all from the one before`}
              className="block w-full text-left"
              onClick={(e) => toggle(c.id, e.shiftKey)}
            >
              <span
                className={`relative block bg-base-300 ${off.has(c.id) ? 'opacity-40' : 'outline outline-1 outline-primary'}`}
                style={{ aspectRatio: `${project.width}/${project.height}` }}
              >
                {pictures.get(c.id) && (
                  <img src={pictures.get(c.id)} alt="" className="w-full h-full object-contain" />
                )}
                {!off.has(c.id) && (
                  <span className="absolute right-1 top-1 bg-base-100 rounded-sm p-0.5">
                    <Check size={11} aria-hidden="true" />
                  </span>
                )}
              </span>
              <span className={`block truncate ${off.has(c.id) ? 'quiet' : ''}`}>{c.name}</span>
            </button>
          </li>
        ))}
      </ul>
      <div className="p-4 border-t line flex flex-col gap-3">
        <fieldset className="flex flex-col gap-1">
          <legend className="quiet mb-1">File</legend>
          {DELIVERY_FORMATS.map(({ id, label, help }) => (
            <label key={id} className="flex items-center gap-2">
              <input
                type="radio"
                name="format"
                className="radio radio-xs"
                checked={chosenFormat.id === id}
                onChange={() => setFormat(id)}
              />
              <span className="flex-1">{label}</span>
              <span className="quiet">{help}</span>
            </label>
          ))}
          {efforts && (
            <label className="grid grid-cols-[5.5rem_1fr] items-center mt-1">
              <span className="quiet">encoded</span>
              <Choice value={effort} onChange={(v) => setEffort(v as Effort)}>
                {EFFORTS.map((id) => (
                  <option key={id} value={id}>
                    {efforts[id]}
                  </option>
                ))}
              </Choice>
            </label>
          )}
          <label
            className="flex items-center gap-2 mt-1"
            title={`What nothing covers stays clear; without, it becomes black.${covers ? '' : ` ${chosenFormat.label} cannot carry it.`}`}
          >
            <input
              type="checkbox"
              className="checkbox checkbox-xs"
              disabled={!covers}
              checked={coverage && covers}
              onChange={(e) => setCoverage(e.target.checked)}
            />
            <span className={covers ? '' : 'quiet'}>keep coverage</span>
          </label>
        </fieldset>
        <div>
          <span className="quiet block mb-1">Size</span>
          <span className="flex items-center gap-1.5">
            <input
              aria-label="Width"
              className="field num w-16"
              inputMode="numeric"
              value={size[0]}
              onChange={(e) => setSize([e.target.value, size[1]])}
            />
            ×
            <input
              aria-label="Height"
              className="field num w-16"
              inputMode="numeric"
              value={size[1]}
              onChange={(e) => setSize([size[0], e.target.value])}
            />
            {sizes.map(([w, h]) => (
              <button
                key={w}
                type="button"
                className="word num"
                onClick={() => setSize([String(w), String(h)])}
              >
                {h}
              </button>
            ))}
          </span>
        </div>
        {(what === 'cut' ? [] : [...leftOut]).map(([why, names]) => (
          <p key={why} className="quiet" title={names.join(', ')}>
            {names.length === 1 ? names[0] : `${names.length} clips`}: {why}
          </p>
        ))}
        <button
          className="word main justify-center py-1.5"
          disabled={what === 'cut' ? cutFrames === 0 : chosen.length === 0}
        >
          {what === 'cut'
            ? 'Render the cut'
            : `Render ${chosen.length} clip${chosen.length === 1 ? '' : 's'}`}
        </button>
      </div>
    </form>
  );
}
