import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { soloed, withTrims } from '../../../core';
import { call, type Refused } from '../../data/http';
import type { ClipView } from '../../data/views';
import { Choice } from '../../components/Choice';
import { useBakingOf } from '../../data/queries';
import { useStored } from '../../components/useStored';
import { bytes } from '../../domain/words';
import { useStoreItself } from './context';

/** Forms of kept frames: text, and bytes per pixel. */
const KEPT_AS = {
  page: ['for the Bench', 3],
  yuv420p: ['for the Kiln: MP4, 8 bit', 1.5],
  gbrp16le: ['for the Kiln: FFV1 or PNG, 16 bit', 6],
} as const;
type KeptFor = keyof typeof KEPT_AS;
/** Those that are samples of deliveries. */
export const KILN_SAMPLES = Object.keys(KEPT_AS).filter((k) => k !== 'page');
const isKeptFor = (v: unknown): v is KeptFor => typeof v === 'string' && v in KEPT_AS;

interface Props {
  readonly clip: ClipView;
  readonly first: number;
  readonly last: number;
  /** Size of the Bench's picture and of the project, in pixels. */
  readonly size: readonly [number, number];
  readonly full: readonly [number, number];
}

/** Lets workers bake frames from the original: for the Bench, or as samples for the Kiln. */
export function BakeByWorkers({ clip, first, last, size, full }: Props) {
  const store = useStoreItself(),
    queries = useQueryClient();
  const { run = null, total } = useBakingOf(clip.id).data ?? {};
  const [keeps, setKeeps] = useStored<KeptFor>('bake-for', 'page', isKeptFor);
  const [trouble, setTrouble] = useState<string | null>(null);
  const [width, height] = keeps === 'page' ? size : full;
  const frames = last - first + 1;
  const send = async (method: 'POST' | 'DELETE', path: string, body?: object) => {
    setTrouble(null);
    await call(method, path, body).catch((e: unknown) => setTrouble((e as Refused).message));
    void queries.invalidateQueries({ queryKey: ['baking', clip.id] });
  };
  const begin = () => {
    const { look, trims, solo } = store.getState();
    const document = withTrims(solo === null ? look : soloed(look, solo), trims[clip.id]);
    return send('POST', `/api/clips/${clip.id}/bake`, {
      document,
      first,
      last,
      width,
      height,
      keeps,
    });
  };
  const underWay = run?.state === 'waiting' || run?.state === 'running';
  return (
    <section aria-label="Baked by workers" className="border-t line pt-2 flex flex-col gap-2">
      <p className="quiet">
        Workers bake too, from the original, while you go on. What is baked for the Kiln is not
        computed again when it is rendered.
      </p>
      <Choice
        className="field"
        aria-label="Workers bake"
        value={keeps}
        onChange={(v) => setKeeps(v as KeptFor)}
      >
        {Object.entries(KEPT_AS).map(([id, [words]]) => (
          <option key={id} value={id}>
            {words}, {(id === 'page' ? size : full).join('×')}
          </option>
        ))}
      </Choice>
      <p className="quiet">
        {frames} frame{frames === 1 ? '' : 's'} take at most{' '}
        {bytes(frames * width * height * KEPT_AS[keeps][1])}, lossless.{' '}
        {total && total.files > 0 && `All that workers baked takes ${bytes(total.bytes)}.`}
      </p>
      {(trouble ?? run?.error) && (
        <p className="text-error">{trouble ?? `Workers stopped: ${run!.error}`}</p>
      )}
      <div className="flex items-center gap-3">
        {underWay ? (
          <>
            <progress
              className="progress flex-1"
              value={run.made}
              max={run.frames}
              aria-label="Baking by workers"
            />
            <span className="num quiet">
              {run.made}/{run.frames}
            </span>
            <button
              className="word framed"
              onClick={() => void send('DELETE', `/api/clips/${clip.id}/bake`)}
            >
              stop workers
            </button>
          </>
        ) : (
          <>
            <button className="word framed" onClick={() => void begin()}>
              have them baked
            </button>
            {run && isKeptFor(run.keeps) && (
              <span className="quiet num">
                {run.made}/{run.frames} of{' '}
                {run.keeps === 'page' ? 'the Bench' : `${run.width}×${run.height}`}
              </span>
            )}
            <button
              className="word quiet ml-auto"
              disabled={!total || total.files === 0}
              onClick={() => void send('DELETE', '/api/baked')}
              title="Takes away all that workers baked, of every clip"
            >
              take theirs away
            </button>
          </>
        )}
      </div>
    </section>
  );
}
