import { useQuery } from '@tanstack/react-query';
import { memo, useMemo } from 'react';
import { columnsOf, zoomFor } from '../../core';
import { Refused } from '../data/http';

/** Columns of a waveform, however wide it is shown. */
const COLUMNS = 900;
const FULL = 32_767;

/**
 * A sound's waveform as wide as its place, or that of a stretch of it (samples), drawn in the colour
 * of the text around.
 */
export const Waveform = memo(function Waveform({
  hash,
  samples,
  from = 0,
  to = samples,
  highest = 1,
  className,
}: {
  readonly hash: string;
  readonly samples: number;
  readonly from?: number;
  readonly to?: number;
  /** What reaches the edges; 1 is full scale. */
  readonly highest?: number;
  readonly className?: string;
}) {
  const zoom = zoomFor(to - from, COLUMNS);
  const { data } = useQuery({
    queryKey: ['peaks', hash, zoom],
    staleTime: Infinity,
    async queryFn({ signal }) {
      const answer = await fetch(`/api/sound-files/${hash}/peaks-${zoom}.bin`, { signal });
      if (!answer.ok) throw new Refused(answer.status, 'the waveform could not be read');
      return new Int16Array(await answer.arrayBuffer());
    },
  });
  const drawn = useMemo(() => {
    if (!data) return undefined;
    const stretch = (sample: number): number => 2 * Math.floor(sample / zoom);
    const part = data.subarray(stretch(from), Math.max(stretch(from) + 2, stretch(to)));
    return outline(columnsOf(part, COLUMNS));
  }, [data, zoom, from, to]);
  return (
    <svg
      className={className}
      viewBox={`0 ${-highest} ${COLUMNS} ${2 * highest}`}
      preserveAspectRatio="none"
      aria-hidden="true"
    >
      {drawn && <path d={drawn} fill="currentColor" />}
    </svg>
  );
});

/** Along the highest samples there, along the lowest back; a line where both are nothing. */
function outline(columns: Int16Array): string {
  const n = columns.length / 2,
    thin = 0.01;
  const at = (x: number, v: number): string => `${x} ${(-v / FULL).toFixed(4)}`;
  const high = Array.from({ length: n }, (_, i) => at(i, columns[2 * i + 1]! + thin * FULL));
  const low = Array.from({ length: n }, (_, i) => at(i, columns[2 * i]! - thin * FULL)).reverse();
  return `M${[...high, ...low].join('L')}Z`;
}
