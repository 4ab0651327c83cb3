import { useEffect, useState } from 'react';
import { call } from '../../api/client';
import { Choice } from '../shared/Choice';

const FRAMES = [
  ['1920×1080 wide', 1920, 1080],
  ['3840×2160 wide', 3840, 2160],
  ['1440×1080 4:3', 1440, 1080],
  ['1080×1080 square', 1080, 1080],
  ['1080×1920 portrait', 1080, 1920],
] as const;
const RATES = [
  ['23.976', 24000, 1001],
  ['24', 24, 1],
  ['25', 25, 1],
  ['29.97', 30000, 1001],
  ['30', 30, 1],
  ['50', 50, 1],
] as const;

/** A project's name and its frame: size, shape and rate. The fields keep what was typed before the page was ready. */
export function NewProjectForm() {
  const [error, setError] = useState<string | null>(null);
  const [ready, setReady] = useState(false);
  useEffect(() => setReady(true), []);
  const make = async (filled: FormData) => {
    try {
      const [, width, height] = FRAMES[Number(filled.get('frame'))]!,
        [, rateNum, rateDen] = RATES[Number(filled.get('rate'))]!;
      const name = String(filled.get('name')).trim();
      const { id } = await call<{ id: string }>('POST', '/api/projects', { name, width, height, rateNum, rateDen });
      location.href = `/p/${id}/rushes`;
    } catch (e) {
      setError((e as Error).message);
    }
  };
  return (
    <form
      className="flex flex-wrap items-end gap-3"
      onSubmit={(e) => {
        e.preventDefault();
        void make(new FormData(e.currentTarget));
      }}
    >
      <h2 className="font-semibold w-full">New project</h2>
      <label className="flex flex-col gap-1 flex-1 min-w-48">
        <span className="quiet">Name</span>
        <input className="field" name="name" maxLength={80} required />
      </label>
      <label className="flex flex-col gap-1">
        <span className="quiet">Frame</span>
        <Choice className="field" name="frame" defaultValue="0">
          {FRAMES.map(([l], i) => (
            <option key={l} value={i}>
              {l}
            </option>
          ))}
        </Choice>
      </label>
      <label className="flex flex-col gap-1">
        <span className="quiet">Frames a second</span>
        <Choice className="field" name="rate" defaultValue="2">
          {RATES.map(([l], i) => (
            <option key={l} value={i}>
              {l}
            </option>
          ))}
        </Choice>
      </label>
      <button className="word main" type="submit" disabled={!ready}>
        Start
      </button>
      {error && (
        <p role="alert" className="w-full">
          {error}
        </p>
      )}
    </form>
  );
}
