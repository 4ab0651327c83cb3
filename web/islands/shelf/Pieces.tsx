import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { stepOf } from '../../../core';
import { call } from '../../api/client';
import { usePieces } from '../shared/data';

/** The parts of looks that were kept on the Bench, and taking one off. */
export function Pieces({ onTrouble }: { onTrouble: (t: string) => void }) {
  const { data } = usePieces();
  const queries = useQueryClient();
  const [sure, setSure] = useState<string | null>(null);
  if (!data || data.length === 0) return null;
  const remove = (id: string) =>
    void call('DELETE', `/api/pieces/${id}`).then(
      () => queries.invalidateQueries({ queryKey: ['pieces'] }),
      (e: Error) => onTrouble(e.message),
    );
  return (
    <section aria-label="Pieces" className="flex-none border-t line px-4 py-3 max-h-[30%] scrolls">
      <h2 className="font-semibold mb-1">
        Pieces <span className="quiet font-normal">kept parts of looks: on the Bench, from the list behind + layer</span>
      </h2>
      <ul>
        {data.map((p) => {
          const layers = [...p.document.layers, ...(p.document.groups ?? []).flatMap((g) => g.layers)];
          const steps = [...new Set(layers.flatMap((l) => l.steps.map((s) => stepOf(s.step)!.label.toLowerCase())))];
          return (
            <li key={p.id} className="flex items-center gap-3 py-0.5" data-piece={p.name}>
              <span className="font-medium">{p.name}</span>
              <span className="quiet truncate mr-auto">{steps.join(', ') || 'no steps'}</span>
              {sure === p.id ? (
                <>
                  <button className="word framed" onClick={() => remove(p.id)}>
                    remove {p.name}
                  </button>
                  <button className="word" onClick={() => setSure(null)}>
                    keep
                  </button>
                </>
              ) : (
                <button className="word quiet" aria-label={`Remove the piece ${p.name}`} onClick={() => setSure(p.id)}>
                  remove …
                </button>
              )}
            </li>
          );
        })}
      </ul>
    </section>
  );
}
