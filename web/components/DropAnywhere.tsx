import { useEffect, useState } from 'react';
import { batchesIn, dropped, looksFirst } from '../data/uploads';
import { Over } from './DropZone';

interface Coming {
  readonly name: string;
  readonly share: number;
}
const isFiles = (e: DragEvent): boolean => [...(e.dataTransfer?.types ?? [])].includes('Files');

/**
 * Imports footage dropped on any view of a project. Progress is shown at the bottom of the page,
 * details on Rushes.
 */
export function DropAnywhere({ project }: { readonly project: string }) {
  const [over, setOver] = useState(false);
  const [coming, setComing] = useState<Coming | null>(null);
  const [said, setSaid] = useState<string | null>(null);
  useEffect(() => {
    const drag = (e: DragEvent) => {
      if (!isFiles(e)) return;
      e.preventDefault();
      setOver(e.type === 'dragover');
    };
    const drop = (e: DragEvent) => {
      if (!isFiles(e)) return;
      e.preventDefault();
      setOver(false);
      void dropped(e.dataTransfer!.items).then(async (given) => {
        const { said: ofLooks, left: all } = await looksFirst(given);
        if (ofLooks) setSaid(ofLooks);
        if (all.length === 0) return;
        const refused = await batchesIn(project, all, (name, share) => setComing({ name, share }));
        setComing(null);
        setSaid(
          refused.length > 0
            ? refused.join('; ')
            : `${all.length === 1 ? 'It is' : 'They are'} being read: see Rushes.`,
        );
      });
    };
    const on = [
      ['dragover', drag],
      ['dragleave', drag],
      ['drop', drop],
    ] as const;
    on.forEach(([name, f]) => window.addEventListener(name, f));
    return () => on.forEach(([name, f]) => window.removeEventListener(name, f));
  }, [project]);
  return (
    <>
      {over && (
        <div className="fixed inset-0 z-50 pointer-events-none">
          <Over words="Drop footage or sounds to bring them into the project" />
        </div>
      )}
      {(coming ?? said) && (
        <div
          role="status"
          className="fixed bottom-8 right-3 z-40 flex items-center gap-3 border line bg-base-100 px-3 py-2 max-w-[420px]"
        >
          {coming ? (
            <>
              <span className="truncate">{coming.name}</span>
              <progress
                className="bar w-40"
                value={coming.share}
                aria-label={`Sending ${coming.name}`}
              />
            </>
          ) : (
            <>
              <span>{said}</span>
              <a className="word" href={`/p/${project}/rushes`}>
                Rushes
              </a>
              <button className="word quiet" onClick={() => setSaid(null)}>
                put away
              </button>
            </>
          )}
        </div>
      )}
    </>
  );
}
