import { Popover, PopoverButton, PopoverPanel } from '@headlessui/react';
import { lengthOf } from '../../../core';
import type { ClipView } from '../../data/views';
import { bytes } from '../../domain/words';
import { BakeByWorkers } from './BakeByWorkers';
import type { BakingState } from './useBaking';

interface Props {
  readonly clip: ClipView;
  readonly loop: readonly [first: number, last: number] | undefined;
  readonly baking: BakingState;
}

/** Estimates the size of baking, starts and stops it. */
export function BakePanel({ clip, loop, baking }: Props) {
  const { states, size, total, run, trouble } = baking;
  const [first, last] = loop ?? [0, lengthOf(clip) - 1];
  const frames = last - first + 1;
  const there = states.slice(first, last + 1).filter((s) => s === 'baked').length;
  // Before anything is baked, the uncompressed size.
  const each = total.files > 0 ? total.bytes / total.files : size[0] * size[1] * 3;
  const left = frames - there;
  return (
    <Popover className="relative">
      <PopoverButton className="word num" title="compute frames ahead and keep them (A)">
        {run ? `${Math.floor((run.done / run.of) * 100)} %` : 'bake'}
      </PopoverButton>
      <PopoverPanel
        anchor={{ to: 'top end', gap: 8 }}
        className="z-30 w-80 p-3 bg-base-100 border line text-sm flex flex-col gap-2"
      >
        <p>
          {frames} frame{frames === 1 ? '' : 's'} {loop ? 'of the loop' : 'of the clip'} at{' '}
          <span className="num">
            {size[0]}×{size[1]}
          </span>
          , lossless, kept by this browser until the look, the clip or the application changes.
        </p>
        <p className="quiet">
          {there === frames
            ? 'All of them are baked.'
            : `${there > 0 ? `${there} are there. ` : ''}The ${there > 0 ? 'other ' : ''}${left} take ${
                total.files > 0 ? 'about' : 'at most'
              } ${bytes(left * each)}.`}{' '}
          {total.files > 0 && `All that is baked here takes ${bytes(total.bytes)}.`}
        </p>
        {!baking.canBake && (
          <p className="text-error">
            This browser grants no private folder, so nothing can be baked in it.
          </p>
        )}
        {trouble && (
          <p className="text-error">
            Baking stopped: {trouble}. Take away what is baked, or bake less.
          </p>
        )}
        {run ? (
          <div className="flex items-center gap-3">
            <progress
              className="progress flex-1"
              value={run.done}
              max={run.of}
              aria-label="Baking"
            />
            <span className="num quiet">
              {run.done}/{run.of}
            </span>
            <button className="word framed" onClick={baking.stop}>
              stop baking
            </button>
          </div>
        ) : (
          <div className="flex items-center gap-3">
            <button
              className="word main"
              disabled={!baking.canBake || left === 0}
              onClick={() => baking.start(first, last)}
            >
              {there > 0 && left > 0 ? 'bake the rest' : 'bake them'}
            </button>
            <button
              className="word quiet ml-auto"
              disabled={total.files === 0}
              onClick={baking.clear}
            >
              take all baked away
            </button>
          </div>
        )}
        <BakeByWorkers clip={clip} first={first} last={last} size={size} full={baking.full} />
      </PopoverPanel>
    </Popover>
  );
}
