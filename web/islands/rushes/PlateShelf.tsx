import { useQuery } from '@tanstack/react-query';
import { Pause, Play } from 'lucide-react';
import { useEffect, useMemo, useRef, useState } from 'react';
import {
  BLEND_IDS,
  BLEND_MODES,
  type BlendId,
  emptyLook,
  type PlatePoints,
  withTrims,
} from '../../../core';
import type { ClipView, ProjectView } from '../../data/views';
import { EngineClient } from '../../engine/client/client';
import { Picture } from '../../engine/client/Picture';
import { NumberField } from '../../components/NumberField';
import { usePlaying } from '../bench/usePlaying';
import { restingFrame, sized } from '../../domain/views';
import { versionQuery } from '../../data/queries';
import { likelyBlend, plated, pointsOf, pointsWords, withPlate } from './plate-trial';
import { Choice } from '../../components/Choice';

const MEMORY = 160 * 2 ** 20,
  LINES = 270;

interface Props {
  readonly plate: ClipView;
  readonly project: ProjectView;
  /** Sets the plate's points; null restores the measured ones. */
  readonly onPoints: (points: PlatePoints | null) => void;
}

/** A plate over a clip under its look, live, with its black and white points. */
export function PlateShelf({ plate, project, onPoints }: Props) {
  const [over, setOver] = useState<string | null>(null);
  const clip =
    project.clips.find((c) => c.id === over) ??
    project.clips.find((c) => c.look) ??
    project.clips[0];
  return clip ? (
    <Shelf
      key={clip.id}
      plate={plate}
      project={project}
      onPoints={onPoints}
      clip={clip}
      onOver={setOver}
    />
  ) : (
    <p className="flex-none border-t line px-4 py-3 quiet">
      Bring a clip in to see the plate over it.
    </p>
  );
}

function Shelf({
  plate,
  project,
  clip,
  onPoints,
  onOver,
}: Props & { readonly clip: ClipView; readonly onOver: (clip: string) => void }) {
  const engine = useMemo(() => new EngineClient('bt709', MEMORY), []);
  useEffect(() => () => engine.close(), [engine]);
  const [trouble, setTrouble] = useState<string | null>(null);
  useEffect(() => engine.onStatus(() => setTrouble(engine.status.trouble)), [engine]);
  const [frame, setFrame] = useState(restingFrame(clip));
  const [chosen, setBlend] = useState<BlendId | null>(null),
    [opacity, setOpacity] = useState(100);
  const blend = chosen ?? likelyBlend(plate);
  /** Points during a drag. */
  const [held, setHeld] = useState<PlatePoints | null>(null);
  const latest = useRef<PlatePoints | null>(null);
  const points = held ?? pointsOf(plate);
  const version = useQuery({
    ...versionQuery(clip.look?.versionId ?? ''),
    enabled: clip.look !== null,
  });
  const [on, setOn] = useState(false);
  const playing = usePlaying(engine, clip, {
    on,
    setOn,
    frame,
    setFrame,
    loop: undefined,
    baked: false,
  });
  const document = version.data?.document;
  const tried = useMemo(() => {
    const applied =
      clip.look && document ? withTrims(document, clip.trims[clip.look.lookId]) : emptyLook('none');
    return plated(applied, blend, opacity);
  }, [clip, document, blend, opacity]);
  useEffect(() => {
    engine.clips([
      ...project.clips.map((c) => (c.id === clip.id ? withPlate(c, tried.pin, plate) : c)),
      ...project.plates.map((p) => (p.id === plate.id ? { ...p, plate: points } : p)),
    ]);
    const [width, height] = sized(project, LINES);
    engine.request([
      { id: 'hero', clip: clip.id, frame, look: tried.look, from: LINES, width, height },
    ]);
  }, [engine, project, clip, plate, tried, frame, points]);
  const hold = (p: PlatePoints) => {
    latest.current = p;
    setHeld(p);
  };
  const end = () => {
    if (latest.current) onPoints(latest.current);
    latest.current = null;
    setHeld(null);
  };
  const found = plate.statistics?.plate;
  const limits = { black: [0, 0.9], white: [0.1, 1] } as const;
  return (
    <section
      aria-label="Plate over a clip"
      className="flex-none h-[264px] border-t line bg-base-200 p-3 flex gap-4"
    >
      <div
        className="h-full bg-base-300 flex-none"
        style={{ aspectRatio: `${project.width}/${project.height}` }}
      >
        <Picture
          engine={engine}
          view="hero"
          label={`${plate.name} over ${clip.name}`}
          className="w-full h-full object-contain"
        />
      </div>
      <div className="flex-1 min-w-0 flex flex-col gap-2">
        <h2 className="font-semibold truncate">
          {plate.name} <span className="quiet font-normal">over {clip.name}</span>
        </h2>
        <div className="grid grid-cols-[4.5rem_minmax(0,22rem)] gap-y-1 items-center">
          <span className="quiet">over</span>
          <Choice
            className="field"
            aria-label="Over which clip"
            value={clip.id}
            onChange={(v) => onOver(v)}
          >
            {project.clips.map((c) => (
              <option key={c.id} value={c.id}>
                {c.name}
                {c.look ? ` under ${c.look.name}` : ''}
              </option>
            ))}
          </Choice>
          <span className="quiet">laid by</span>
          <span className="flex items-center gap-1">
            <Choice
              className="field flex-1 min-w-0"
              aria-label="Blend mode"
              value={blend}
              onChange={(v) => setBlend(v as BlendId)}
            >
              {BLEND_IDS.map((id) => (
                <option key={id} value={id}>
                  {BLEND_MODES[id].label}
                </option>
              ))}
            </Choice>
            <NumberField
              label="Opacity"
              value={opacity}
              min={0}
              max={100}
              unit="%"
              reset={100}
              onChange={setOpacity}
              onEnd={() => {}}
            />
          </span>
          {points &&
            (['black', 'white'] as const).map((which) => (
              <Point
                key={which}
                which={which}
                value={points[which]}
                limits={limits[which]}
                found={found?.[which]}
                onChange={(v) => hold({ ...points, [which]: v })}
                onEnd={end}
              />
            ))}
        </div>
        <p className="quiet">
          {points ? pointsWords(blend) : 'its black and white are being measured'}
        </p>
        {trouble && <p role="alert">{trouble}</p>}
        <div className="mt-auto flex items-center gap-2">
          <button
            className="word"
            onClick={playing.toggle}
            aria-label={playing.on ? 'Stop' : 'Play'}
          >
            {playing.on ? (
              <Pause size={13} aria-hidden="true" />
            ) : (
              <Play size={13} aria-hidden="true" />
            )}
          </button>
          <input
            type="range"
            className="slide flex-1"
            aria-label="Frame"
            min={0}
            max={clip.frames - 1}
            value={frame}
            style={{ ['--share' as string]: `${(frame / Math.max(1, clip.frames - 1)) * 100}%` }}
            onChange={(e) => setFrame(Number(e.target.value))}
          />
          <span className="num quiet w-10 text-right">{frame}</span>
          {plate.plate && (
            <button className="word quiet" onClick={() => onPoints(null)}>
              as found
            </button>
          )}
        </div>
      </div>
    </section>
  );
}

interface PointProps {
  readonly which: 'black' | 'white';
  readonly value: number;
  readonly limits: readonly [number, number];
  readonly found: number | undefined;
  readonly onChange: (v: number) => void;
  readonly onEnd: () => void;
}
const Point = ({ which, value, limits: [min, max], found, onChange, onEnd }: PointProps) => (
  <>
    <span className="quiet">{which} point</span>
    <span className="flex items-center gap-2">
      <NumberField
        label={which === 'black' ? 'Black point' : 'White point'}
        value={value * 100}
        min={min * 100}
        max={max * 100}
        soft={which === 'black' ? [0, 20] : [80, 100]}
        unit="%"
        onChange={(v) => onChange(v / 100)}
        onEnd={onEnd}
        {...(found !== undefined && { reset: found * 100 })}
      />
      {found !== undefined && <span className="num quiet">found {(found * 100).toFixed(1)} %</span>}
    </span>
  </>
);
