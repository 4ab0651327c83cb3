import { useEffect, useRef } from 'react';
import {
  assetsAsked,
  FIELD_VIEWS,
  type FieldView,
  footageAt,
  FRAME_ASSETS,
  type FrameAssetId,
} from '../../../core';
import { call, type Refused } from '../../data/http';
import type { ClipView } from '../../data/views';
import { Choice } from '../../components/Choice';
import { useBench, usePlayheadNow, useStill } from './context';

/**
 * Progress of what is computed from the hero's footage, if the look or the clip's retime needs it.
 * It starts by itself and can be stopped and continued here. Until it is there the look does
 * without.
 */
export function AssetStates({
  clip,
  onTrouble,
}: {
  clip: ClipView;
  onTrouble: (text: string) => void;
}) {
  const asked = useStill((look) => assetsAsked(look, clip).join(' '));
  return (
    <>
      {asked
        .split(' ')
        .map((id) =>
          id === '' ? null : (
            <AssetState
              key={`${clip.id} ${id}`}
              asset={id as FrameAssetId}
              clip={clip}
              onTrouble={onTrouble}
            />
          ),
        )}
      {clip.assets.motion?.state === 'done' && <FieldShown />}
    </>
  );
}

function AssetState({
  asset,
  clip,
  onTrouble,
}: {
  asset: FrameAssetId;
  clip: ClipView;
  onTrouble: (text: string) => void;
}) {
  const { words } = FRAME_ASSETS[asset],
    state = clip.assets[asset];
  const begun = useRef(false),
    playhead = usePlayheadNow();
  const send = (method: 'POST' | 'DELETE') =>
    void call(
      method,
      `/api/clips/${clip.id}/assets/${asset}`,
      method === 'POST' ? { from: footageAt(clip, playhead()) } : undefined,
    ).catch((e: unknown) => onTrouble((e as Refused).message));
  useEffect(() => {
    if (state !== undefined || begun.current) return;
    begun.current = true;
    send('POST');
  });
  if (state?.state === 'done') return null;
  const underWay = state === undefined || state.state === 'waiting' || state.state === 'running';
  return (
    <span
      className="flex items-center gap-2 text-base-content"
      role="status"
      aria-label={`The hero’s ${words.name}`}
    >
      {underWay
        ? `${words.underWay} ${Math.floor((state?.progress ?? 0) * 100)} %`
        : (state.error ?? words.missing)}
      <button className="word framed" onClick={() => send(underWay ? 'DELETE' : 'POST')}>
        {underWay ? 'stop' : words.begin}
      </button>
    </span>
  );
}

/** Shows the motion itself in place of the hero. */
function FieldShown() {
  const shown = useBench((s) => s.fieldShown),
    show = useBench((s) => s.show);
  return (
    <Choice
      className="field !py-0 num"
      aria-label="Motion of the hero, shown"
      value={shown ?? ''}
      onChange={(v) => show({ fieldShown: v === '' ? null : (v as FieldView) })}
    >
      <option value="">motion not shown</option>
      {Object.entries(FIELD_VIEWS).map(([id, words]) => (
        <option key={id} value={id}>
          motion {words}
        </option>
      ))}
    </Choice>
  );
}
