import { useState } from 'react';
import type { LutValue } from '../../../../core';
import { readLut } from '../../../engine/client/files';
import { FileButton } from '../../../components/FileButton';

const sizeOf = (v: LutValue): string =>
  v.kind === 'process'
    ? `${v.nodes.length} node${v.nodes.length === 1 ? '' : 's'}`
    : v.kind === '3d'
      ? `${v.size}×${v.size}×${v.size}`
      : `${v.size}`;

/**
 * A table from a `.cube` or `.clf` file: shows, replaces or removes it. Read errors are shown here.
 */
export function CubeControl({
  label,
  value,
  onChange,
}: {
  label: string;
  value: LutValue | null;
  onChange: (v: LutValue | null) => void;
}) {
  const [trouble, setTrouble] = useState<string | null>(null);
  const [reading, setReading] = useState(false);
  const bring = async (f: File) => {
    setReading(true);
    setTrouble(null);
    const read = await readLut(f);
    setReading(false);
    if ('trouble' in read) return setTrouble(read.trouble);
    onChange(read.value);
  };
  return (
    <span className="flex flex-col gap-0.5 min-w-0">
      <span className="truncate" title={value?.name}>
        {value ? value.name : <span className="quiet">no table</span>}
      </span>
      <span className="flex items-center gap-1">
        <FileButton
          label={`${label} file`}
          accept=".cube,.clf,.xml"
          disabled={reading}
          onFile={(f) => void bring(f)}
        >
          {reading ? 'reading …' : value ? 'another file' : 'choose a file'}
        </FileButton>
        {value && (
          <button
            className="word quiet"
            aria-label={`Take the ${label.toLowerCase()} off`}
            onClick={() => onChange(null)}
          >
            none
          </button>
        )}
        {value && <span className="num quiet ml-auto">{sizeOf(value)}</span>}
      </span>
      {trouble && <span role="alert">{trouble}</span>}
    </span>
  );
}
