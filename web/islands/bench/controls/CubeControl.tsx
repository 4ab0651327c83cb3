import { useState } from 'react';
import type { CubeValue } from '../../../../core';
import { readLut } from '../../../engine/files';
import { FileButton } from '../../shared/FileButton';

/** A table from a `.cube` or `.clf` file: what it is, another one, or none. What cannot be read says why, here. */
export function CubeControl({ label, value, onChange }: { label: string; value: CubeValue | null; onChange: (v: CubeValue | null) => void }) {
  const [said, setSaid] = useState<{ text: string; trouble: boolean } | null>(null);
  const [reading, setReading] = useState(false);
  const bring = async (f: File) => {
    setReading(true);
    setSaid(null);
    const read = await readLut(f);
    setReading(false);
    if ('trouble' in read) return setSaid({ text: read.trouble, trouble: true });
    if (read.note) setSaid({ text: read.note, trouble: false });
    onChange(read.value);
  };
  return (
    <span className="flex flex-col gap-0.5 min-w-0">
      <span className="truncate" title={value?.name}>
        {value ? value.name : <span className="quiet">no table</span>}
      </span>
      <span className="flex items-center gap-1">
        <FileButton label={`${label} file`} accept=".cube,.clf,.xml" disabled={reading} onFile={(f) => void bring(f)}>
          {reading ? 'reading …' : value ? 'another file' : 'choose a file'}
        </FileButton>
        {value && (
          <button className="word quiet" aria-label={`Take the ${label.toLowerCase()} off`} onClick={() => onChange(null)}>
            none
          </button>
        )}
        {value && <span className="num quiet ml-auto">{value.kind === '3d' ? `${value.size}×${value.size}×${value.size}` : `${value.size}`}</span>}
      </span>
      {said && <span role={said.trouble ? 'alert' : 'status'}>{said.text}</span>}
    </span>
  );
}
