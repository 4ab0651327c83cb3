import { useEffect, useRef } from 'react';
import {
  asksForMotion,
  betweenOf,
  FIELD_VIEWS,
  type FieldView,
  footageAt,
  isRetimed,
} from '../../../core';
import { call, type Refused } from '../../data/http';
import type { ClipView } from '../../data/views';
import { Choice } from '../../components/Choice';
import { useBench, usePlayheadNow, useStill } from './context';

/**
 * Progress of measuring the hero's motion, if the look or its retime needs it. It starts by itself
 * and can be stopped and continued here. Until then frames are mixed and nothing is smeared.
 */
export function MotionState({
  clip,
  onTrouble,
}: {
  clip: ClipView;
  onTrouble: (text: string) => void;
}) {
  const byLook = useStill(asksForMotion);
  const asked = byLook || (betweenOf(clip) === 'motion' && isRetimed(clip));
  const begun = useRef<string>(undefined),
    playhead = usePlayheadNow();
  const send = (method: 'POST' | 'DELETE') =>
    void call(
      method,
      `/api/clips/${clip.id}/motion`,
      method === 'POST' ? { from: footageAt(clip, playhead()) } : undefined,
    ).catch((e: unknown) => onTrouble((e as Refused).message));
  const { motion } = clip;
  useEffect(() => {
    if (!asked || motion !== null || begun.current === clip.id) return;
    begun.current = clip.id;
    send('POST');
  });
  if (motion?.state === 'done') return <FieldShown />;
  if (!asked) return null;
  const underWay = motion === null || motion.state === 'waiting' || motion.state === 'running';
  return (
    <span
      className="flex items-center gap-2 text-base-content"
      role="status"
      aria-label="Motion of the hero"
    >
      {underWay
        ? `measuring motion ${Math.floor((motion?.progress ?? 0) * 100)} %`
        : (motion.error ?? 'motion is not measured')}
      <button className="word framed" onClick={() => send(underWay ? 'DELETE' : 'POST')}>
        {underWay ? 'stop' : 'measure it'}
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
