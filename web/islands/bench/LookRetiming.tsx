/**
 * The look's retime: places in the clip's own time with speeds, on top of the clip's own retime.
 */
import { X } from 'lucide-react';
import {
  edit,
  type LookDocument,
  RETIME_HOLD,
  RETIME_SPEED,
  type RetimePlaceUse,
  retimeOf,
} from '../../../core';
import { startOf } from '../../../core/time';
import { useBench, useClipTime, useHeroFacts, usePlayheadNow, useStill } from './context';
import { ParameterControl } from './controls/ParameterControl';
import { InstantEditor } from './InstantEditor';
import { BetweenChoice, WayChoice } from './retime-choices';
import { TimeMap } from './TimeMap';

const firstPlace = (at: RetimePlaceUse['at']): RetimePlaceUse => ({
  at,
  speed: { value: 50 },
  to: 'smooth',
});

/** Controls of the look's retime. */
export function LookRetiming() {
  const hero = useHeroFacts(),
    time = useClipTime(),
    playhead = usePlayheadNow();
  const retime = useStill((look) => look.retime),
    change = useBench((s) => s.change);
  const shot = time.shot?.time ?? time;
  const set = (words: string, to: (now: LookDocument) => LookDocument) => change(words, to);
  const add = () => {
    const frame = time.shot?.nearest(playhead()) ?? playhead();
    set('a place of the look’s retime', (now) => {
      const place = firstPlace(edit.instantAt(now, frame, shot));
      return edit.setRetime(now, {
        backwards: false,
        between: 'motion',
        ...now.retime,
        places: [...(now.retime?.places ?? []), place],
      });
    });
  };
  const map = retimeOf({ ...hero, inOut: null, retime: null, frames: shot.frames });
  return (
    <div className="flex flex-col gap-1 border-t line pt-1" data-look-retime>
      <div className="flex items-center gap-1">
        <span
          className="quiet truncate mr-auto"
          title="Under this look, whatever speed a clip has of its own"
        >
          the look lets clips run {retime ? '' : 'as they do'}
        </span>
        <button className="word quiet" onClick={add} title="At the playhead">
          {retime ? '+ place' : 'retime by the look'}
        </button>
        {retime && (
          <button
            className="word quiet"
            onClick={() => set('clips run as they do', (now) => edit.setRetime(now, undefined))}
          >
            as they do
          </button>
        )}
      </div>
      {retime && (
        <>
          <TimeMap
            map={map}
            frames={shot.frames}
            label="The clip’s own time over that under the look"
          />
          {retime.places.map((p, i) => (
            <div key={i} className="border-t line pt-0.5" data-look-place={i + 1}>
              <div className="flex items-center gap-1">
                <span className="quiet mr-auto">place {i + 1}</span>
                <span className="w-32 flex">
                  <WayChoice
                    label={`After place ${i + 1} of the look`}
                    value={p.to}
                    onChange={(to) =>
                      set('how its speed changes', (now) => edit.changeRetimePlace(now, i, { to }))
                    }
                  />
                </span>
                <button
                  className="quiet"
                  aria-label={`Remove place ${i + 1} of the look`}
                  disabled={retime.places.length === 1}
                  onClick={() =>
                    set('remove a place', (now) =>
                      edit.setRetime(
                        now,
                        now.retime && {
                          ...now.retime,
                          places: now.retime.places.filter((_, k) => k !== i),
                        },
                      ),
                    )
                  }
                >
                  <X size={11} aria-hidden="true" />
                </button>
              </div>
              <InstantEditor
                label="At"
                at={p.at}
                asShot={shot}
                onInstant={(look, at) => edit.changeRetimePlace(look, i, { at })}
              />
              <ParameterControl
                parameter={RETIME_SPEED}
                setting={p.speed}
                name={`Speed at place ${i + 1} of the look`}
                reset={100}
                onSetting={(look, speed) => edit.changeRetimePlace(look, i, { speed })}
              />
              <ParameterControl
                parameter={RETIME_HOLD}
                setting={p.hold ?? { value: 0 }}
                name={`Stands still at place ${i + 1} of the look`}
                reset={0}
                onSetting={(look, hold) => edit.changeRetimePlace(look, i, { hold })}
              />
            </div>
          ))}
          <div className="flex items-center gap-1.5">
            <BetweenChoice
              label="Between frames under the look"
              value={retime.between}
              onChange={(between) =>
                set('between frames', (now) =>
                  now.retime ? edit.setRetime(now, { ...now.retime, between }) : now,
                )
              }
            />
            <label className="quiet flex items-center gap-1">
              backwards
              <input
                type="checkbox"
                className="tick"
                aria-label="The look lets clips run backwards"
                checked={retime.backwards}
                onChange={(e) => {
                  const backwards = e.target.checked;
                  set('backwards', (now) =>
                    now.retime ? edit.setRetime(now, { ...now.retime, backwards }) : now,
                  );
                }}
              />
            </label>
          </div>
          <span className="num whitespace-nowrap" data-testid="length-under-look">
            <span className="quiet">{shot.frames} → </span>
            {time.frames} frames{' '}
            <span className="quiet">{startOf(time.frames, time.rate).toFixed(1)} s</span>
          </span>
        </>
      )}
    </div>
  );
}
