import { useState } from 'react';
import { framesPerSecond } from '../../../core/time';
import { call } from '../../data/http';
import { lengthOfCut } from '../../../core';
import { Away, Island, useCutView, useKiln, useEvents, useProject } from '../../data/queries';
import { Head, Notice } from '../../components/Head';
import { Delivery } from './Delivery';
import { Order } from './Order';
import { Player } from './Player';

/** The Kiln, as an island. */
export const Kiln = ({ project }: { project: string }) => (
  <Island>
    <Place project={project} />
  </Island>
);

function Place({ project }: { project: string }) {
  const { data } = useProject(project);
  const kiln = useKiln(project);
  const cut = useCutView(project);
  const away = useEvents(project);
  const [trouble, setTrouble] = useState<string | null>(null);
  const [playing, setPlaying] = useState<string | null>(null);
  const attempt = (work: Promise<unknown>) =>
    void work.then(
      () => kiln.refetch(),
      (e: Error) => setTrouble(e.message),
    );
  if (!data || !kiln.data) return <p className="p-6">{kiln.error?.message ?? 'Opening …'}</p>;
  const { workers, deliveries } = kiln.data;
  const all = deliveries.flatMap((d) => d.items);
  const played = all.find((i) => i.id === playing && i.state === 'done');
  const source =
    played && !played.retimed ? data.clips.find((c) => c.hash === played.hash) : undefined;
  return (
    <>
      <Head
        help="kiln"
        title={
          <>
            {data.name} <span className="quiet font-normal">· Kiln</span>
          </>
        }
      >
        <Away away={away} project={project} />
        <span className="num quiet">
          {workers === 0
            ? 'no worker is running: start one with npm run worker'
            : `${workers} worker${workers > 1 ? 's' : ''}`}
        </span>
      </Head>
      <Notice text={trouble} onClose={() => setTrouble(null)} />
      <div className="flex-1 min-h-0 flex">
        <Order
          project={data}
          cutFrames={cut.data ? lengthOfCut(cut.data.document, data.rate) : 0}
          onOrder={(wanted, what) =>
            attempt(
              call(
                'POST',
                `/api/projects/${project}/${what === 'cut' ? 'cut/' : ''}deliveries`,
                wanted,
              ),
            )
          }
        />
        <section aria-label="Deliveries" className="flex-1 scrolls p-4 flex flex-col gap-5">
          {played && (
            <Player
              key={played.id}
              item={played}
              before={
                source && played
                  ? {
                      url: `/api/footage/${source.hash}/proxy-540.webm`,
                      first: played.first,
                      perSecond: framesPerSecond(played.rate),
                    }
                  : null
              }
              onClose={() => setPlaying(null)}
            />
          )}
          {deliveries.length === 0 && (
            <p className="py-16 text-center quiet">
              Nothing rendered yet. Choose clips on the left and press Render.
            </p>
          )}
          {deliveries.map((d) => (
            <Delivery
              key={d.id}
              delivery={d}
              playing={playing}
              onPlay={setPlaying}
              attempt={attempt}
            />
          ))}
        </section>
      </div>
    </>
  );
}
