import { useState } from 'react';
import { edit, resolve, type StepUse } from '../../../../core';
import { type Cdl, writeCdl } from '../../../../core/formats';
import { download, readCdl } from '../../../engine/client/files';
import { FileButton } from '../../../components/FileButton';
import { type LayerFace, useBench, useStoreItself } from '../context';
import { Choice } from '../../../components/Choice';

const CHANNELS = ['red', 'green', 'blue'] as const;
const WHAT = ['slope', 'offset', 'power'] as const;
type Numbers = readonly [number, number, number];

/** Reads a correction from a decision list into the step, and saves the step's as a file. */
export function CdlFiles({ layer, use, name }: { layer: LayerFace; use: StepUse; name: string }) {
  const store = useStoreItself(),
    change = useBench((s) => s.change);
  const [found, setFound] = useState<readonly Cdl[]>([]);
  const [trouble, setTrouble] = useState<string | null>(null);
  const take = (c: Cdl) => {
    // As such files define it: on the clip's code values, clamped.
    const values: Record<string, number | string | boolean> = {
      saturation: c.saturation,
      'acts-on': 'clip',
      hold: true,
    };
    for (const w of WHAT) CHANNELS.forEach((channel, i) => (values[`${w}-${channel}`] = c[w][i]!));
    change(`CDL ${c.id}`, (now) =>
      Object.entries(values).reduce(
        (doc, [id, v]) => edit.setConstant(doc, layer.key, use.key, id, v),
        now,
      ),
    );
  };
  const bring = async (f: File) => {
    const read = await readCdl(f);
    setTrouble('trouble' in read ? read.trouble : null);
    if ('trouble' in read) return;
    setFound(read.value.length > 1 ? read.value : []);
    take(read.value[0]!);
  };
  const own = (): Cdl => {
    const { look } = store.getState();
    const of = (id: string, standard: number) => {
      const s = use.parameters[id];
      return s ? (resolve(look, s, {}) as number) : standard;
    };
    const three = (w: string, standard: number) =>
      CHANNELS.map((c) => of(`${w}-${c}`, standard)) as unknown as Numbers;
    return {
      id: `${look.name} ${layer.name}`,
      slope: three('slope', 1),
      offset: three('offset', 0),
      power: three('power', 1),
      saturation: of('saturation', 1),
    };
  };
  return (
    <span className="flex flex-col gap-1">
      <span className="flex gap-1 items-center">
        <FileButton label="Decision list file" accept=".cc,.ccc,.cdl" onFile={(f) => void bring(f)}>
          read a file
        </FileButton>
        <span className="quiet ml-2">write</span>
        {(['cc', 'ccc', 'cdl'] as const).map((kind) => (
          <button
            key={kind}
            className="word"
            title={`Write a .${kind} file`}
            onClick={() => download(`${name}.${kind}`, writeCdl(kind, [own()]), 'application/xml')}
          >
            .{kind}
          </button>
        ))}
        {found.length > 1 && (
          <Choice
            className="field min-w-0 flex-1"
            aria-label="Correction"
            onChange={(v) => take(found[Number(v)]!)}
          >
            {found.map((c, i) => (
              <option key={i} value={i}>
                {c.id}
              </option>
            ))}
          </Choice>
        )}
      </span>
      {trouble && <span role="alert">{trouble}</span>}
    </span>
  );
}
