import { X } from 'lucide-react';
import { useState } from 'react';
import { call, type Refused } from '../../data/http';
import type { ClipView, LookView, ReferenceView } from '../../data/views';
import type { LookDocument } from '../../../core';
import { beforeFrom, beforeText, type Comparison, GAINS, type Mode } from './comparison';
import { Choice } from '../../components/Choice';

const MODES: readonly (readonly [Mode, string, string])[] = [
  ['off', 'off', ''],
  ['seam', 'seam', 'S'],
  ['beside', 'side by side', 'W'],
  ['difference', 'difference', 'E'],
];

interface Props {
  readonly comparing: Comparison;
  readonly looks: readonly LookView[];
  readonly references: readonly ReferenceView[];
  readonly clips: readonly ClipView[];
  readonly onKeep: () => void;
  readonly onTrouble: (text: string) => void;
}

/** Chooses what is compared and how, and shows kept references. */
export function Compare({ comparing, looks, references, clips, onKeep, onTrouble }: Props) {
  const [open, setOpen] = useState(false);
  const { mode, before, gain, upright, marks, set } = comparing;
  const gone = (r: ReferenceView) => !clips.some((c) => c.id === r.clipId);
  const drop = (r: ReferenceView) =>
    call('DELETE', `/api/references/${r.id}`).catch((e: Refused) => onTrouble(e.message));
  return (
    <div
      className="relative"
      onKeyDown={(e) => {
        if (e.key === 'Escape') setOpen(false);
      }}
    >
      <button
        className={`word ${mode !== 'off' || marks ? 'framed' : ''}`}
        aria-expanded={open}
        onClick={() => setOpen(!open)}
      >
        compare{mode !== 'off' && <span className="quiet max-w-28 truncate">{comparing.name}</span>}
      </button>
      {open && (
        <div
          role="group"
          aria-label="Compare"
          className="absolute right-0 top-9 z-20 w-[330px] p-3 bg-base-100 border line rounded flex flex-col gap-2.5 shadow-md"
        >
          <label className="flex items-center gap-2">
            <span className="quiet w-12">before</span>
            <Choice
              className="field flex-1 min-w-0"
              value={beforeText(before)}
              onChange={(v) => set({ before: beforeFrom(v) })}
            >
              <option value="shot">the clip as shot</option>
              <option value="balanced">the clip balanced</option>
              {references.length > 0 && (
                <optgroup label="references">
                  {references.map((r) => (
                    <option key={r.id} value={`reference:${r.id}`} disabled={gone(r)}>
                      {r.name}
                    </option>
                  ))}
                </optgroup>
              )}
              {looks.map((l) => (
                <optgroup key={l.id} label={l.name}>
                  {l.versions.map((v) => (
                    <option key={v.id} value={`version:${v.id}`}>
                      {l.name} v{v.number}
                    </option>
                  ))}
                </optgroup>
              ))}
            </Choice>
          </label>
          <div className="flex gap-1">
            {MODES.map(([id, label, key]) => (
              <button
                key={id}
                className={`word ${mode === id ? 'framed' : ''}`}
                aria-pressed={mode === id}
                title={key && `${label} (${key})`}
                onClick={() => set({ mode: id })}
              >
                {label}
              </button>
            ))}
          </div>
          {mode === 'seam' && (
            <label className="flex items-center gap-2">
              <input
                type="checkbox"
                className="tick"
                checked={!upright}
                onChange={(e) => set({ upright: !e.target.checked })}
              />
              the seam lies flat <span className="num quiet">Shift S</span>
            </label>
          )}
          {mode === 'difference' && (
            <div className="flex items-center gap-1">
              <span className="quiet mr-1">made larger</span>
              {GAINS.map((g) => (
                <button
                  key={g}
                  className={`word num ${gain === g ? 'framed' : ''}`}
                  aria-label={`${g} times`}
                  aria-pressed={gain === g}
                  onClick={() => set({ gain: g })}
                >
                  ×{g}
                </button>
              ))}
            </div>
          )}
          <label className="flex items-center gap-2 pt-2 border-t line">
            <input
              type="checkbox"
              className="tick"
              checked={marks}
              onChange={(e) => set({ marks: e.target.checked })}
            />
            hatch what is crushed, clipped or outside <span className="num quiet">H</span>
          </label>
          <div className="pt-2 border-t line flex items-center gap-2">
            <span className="font-medium mr-auto">References</span>
            <button
              className="word framed"
              title="Keeps the hero with its clip, frame and look (R)"
              onClick={onKeep}
            >
              keep the hero
            </button>
          </div>
          {references.length === 0 && <p className="quiet">None is kept yet.</p>}
          <ul aria-label="References" className="scrolls max-h-52 flex flex-col gap-1">
            {references.map((r) => {
              const chosen = before.kind === 'reference' && before.id === r.id;
              return (
                <li
                  key={r.id}
                  className={`flex items-center gap-2 border-l-2 pl-1 ${chosen ? 'border-primary' : 'border-transparent'}`}
                >
                  <button
                    className="flex-1 min-w-0 flex items-center gap-2 text-left"
                    disabled={gone(r)}
                    title={
                      gone(r)
                        ? 'Its clip has gone: only the picture is left'
                        : `Compare with ${r.name}`
                    }
                    onClick={() =>
                      set({
                        before: { kind: 'reference', id: r.id },
                        ...(mode === 'off' && { mode: 'seam' }),
                      })
                    }
                  >
                    <img
                      src={`/api/references/${r.id}/picture`}
                      alt=""
                      className="w-16 h-9 object-contain bg-base-300 flex-none"
                    />
                    <span className="min-w-0">
                      <span className="block truncate">{r.name}</span>
                      <span className="block truncate quiet">
                        {gone(r) ? 'its clip has gone' : r.made}
                      </span>
                    </span>
                  </button>
                  <button
                    className="quiet"
                    aria-label={`Remove the reference ${r.name}`}
                    onClick={() => void drop(r)}
                  >
                    <X size={12} aria-hidden="true" />
                  </button>
                </li>
              );
            })}
          </ul>
        </div>
      )}
    </div>
  );
}

/** Keeps the hero as a reference: picture, clip, frame and look. */
export async function keepHero(
  project: string,
  clip: ClipView,
  frame: number,
  look: LookDocument,
  version: string | null,
): Promise<void> {
  const canvas = document.querySelector<HTMLCanvasElement>('canvas[data-view="hero"]');
  if (!canvas) return;
  const copy = new OffscreenCanvas(canvas.width, canvas.height);
  copy.getContext('2d')!.drawImage(canvas, 0, 0);
  const bytes = new Uint8Array(
    await (await copy.convertToBlob({ type: 'image/png' })).arrayBuffer(),
  );
  let text = '';
  for (let i = 0; i < bytes.length; i += 8192)
    text += String.fromCharCode(...bytes.subarray(i, i + 8192));
  const name = `${clip.name} ${frame}, ${look.name}`.slice(0, 80);
  await call('POST', `/api/projects/${project}/references`, {
    name,
    clip: clip.id,
    frame,
    version,
    document: look,
    picture: btoa(text),
  });
}
