import type { CutDecisions } from '../../../core';
import type { ClipView } from '../../data/views';
import { inside } from './sorting';
import { Still } from './Still';

interface Props {
  readonly clip: ClipView;
  readonly onSaid: (said: CutDecisions) => void;
  readonly onSplit: (before: readonly number[]) => void;
}

/** Cuts inside a clip, each with the pictures on both sides, to be kept, rejected or split at. */
export function Cuts({ clip, onSaid, onSplit }: Props) {
  const cuts = clip.cuts.filter(inside(clip)),
    denied = Object.entries(clip.cutsSaid).flatMap(([f, what]) =>
      what === 'none' ? [Number(f)] : [],
    );
  const say = (frame: number, what: 'cut' | 'none') => onSaid({ ...clip.cutsSaid, [frame]: what });
  const forget = (frame: number) => {
    const { [frame]: _, ...rest } = clip.cutsSaid;
    onSaid(rest);
  };
  const dropped = denied.filter(inside(clip));
  if (cuts.length + dropped.length === 0) return null;
  return (
    <section aria-label="Cuts inside">
      <h3 className="font-medium">
        {cuts.length === 0
          ? 'No cut inside'
          : cuts.length === 1
            ? 'Another shot begins inside'
            : `${cuts.length + 1} shots in one file`}
      </h3>
      <ul className="flex flex-col gap-2 mt-1">
        {cuts.map((frame) => (
          <li key={frame} className="flex flex-col gap-1">
            <span className="flex gap-px">
              <span className="flex-1">
                <Still clip={clip} frame={frame - 1} />
              </span>
              <span className="flex-1">
                <Still clip={clip} frame={frame} />
              </span>
            </span>
            <span className="flex items-center">
              <span
                className="num mr-auto whitespace-nowrap"
                title={`Another shot begins with frame ${frame} of the file`}
              >
                at {frame}
              </span>
              {clip.cutsSaid[frame] === 'cut' ? (
                <button
                  className="word quiet"
                  onClick={() => forget(frame)}
                  title="What follows movement or the past stays within each shot"
                >
                  kept as one clip
                </button>
              ) : (
                <>
                  <button
                    className="word"
                    onClick={() => say(frame, 'cut')}
                    title="One clip; what follows movement or the past stays within each shot"
                  >
                    keep
                  </button>
                  <button
                    className="word"
                    onClick={() => say(frame, 'none')}
                    title="This is one shot: a flash, or something passing close by"
                  >
                    no cut
                  </button>
                </>
              )}
              <button className="word" onClick={() => onSplit([frame])}>
                split
              </button>
            </span>
          </li>
        ))}
        {dropped.map((frame) => (
          <li key={frame} className="flex items-center gap-2 quiet">
            <span className="num mr-auto">none at {frame}</span>
            <button className="word quiet" onClick={() => forget(frame)}>
              take back
            </button>
          </li>
        ))}
      </ul>
      {cuts.length > 1 && (
        <button className="word framed mt-2" onClick={() => onSplit(cuts)}>
          Split into {cuts.length + 1} clips
        </button>
      )}
    </section>
  );
}
