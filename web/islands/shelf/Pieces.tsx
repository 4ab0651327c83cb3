import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { allLayers, keptMover, stepOf } from '../../../core';
import { moverOf } from '../../../core/time';
import { call } from '../../data/http';
import type { PieceView } from '../../data/views';
import { MoverCurve } from './MoverCurve';

interface Props {
  readonly pieces: readonly PieceView[];
  readonly pictures: ReadonlyMap<string, string>;
  readonly onTrouble: (t: string) => void;
}

/** Kept pieces, each shown alone on a clip, and their removal. */
export function Pieces({ pieces, pictures, onTrouble }: Props) {
  const queries = useQueryClient();
  const [sure, setSure] = useState<string | null>(null);
  if (pieces.length === 0) return null;
  const remove = (id: string) =>
    void call('DELETE', `/api/pieces/${id}`).then(
      () => queries.invalidateQueries({ queryKey: ['pieces'] }),
      (e: Error) => onTrouble(e.message),
    );
  return (
    <section aria-label="Pieces" className="border-t line pt-3">
      <h2 className="font-semibold mb-2">
        Pieces{' '}
        <span className="quiet font-normal">
          kept parts of looks: on the Bench behind + layer; movers behind the small curve
        </span>
      </h2>
      <ul className="grid grid-cols-[repeat(auto-fill,minmax(220px,1fr))] gap-x-4 gap-y-3">
        {pieces.map((p) => {
          const mover = keptMover(p.document);
          const steps = [
            ...new Set(
              allLayers(p.document).flatMap((l) =>
                l.steps.map((s) => stepOf(s.step)!.label.toLowerCase()),
              ),
            ),
          ];
          return (
            <li key={p.id} data-piece={p.name}>
              <span className="relative block bg-base-300 aspect-video">
                {mover && <MoverCurve mover={mover} />}
                {!mover && pictures.get(`piece:${p.id}`) && (
                  <img
                    src={pictures.get(`piece:${p.id}`)}
                    alt={`${p.name} alone on a clip`}
                    className="w-full h-full object-contain"
                  />
                )}
              </span>
              <span className="flex items-center gap-1 mt-1">
                <span className="font-medium truncate">{p.name}</span>
                <span className="ml-auto flex gap-1">
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
                    <button
                      className="word quiet"
                      aria-label={`Remove the piece ${p.name}`}
                      onClick={() => setSure(p.id)}
                    >
                      remove …
                    </button>
                  )}
                </span>
              </span>
              <span className="quiet block truncate">
                {mover
                  ? `moves what it is put on: ${moverOf(mover.kind)?.label.toLowerCase() ?? 'keys'}`
                  : steps.join(', ') || 'no steps'}
              </span>
            </li>
          );
        })}
      </ul>
    </section>
  );
}
