import { ChevronDown, ChevronRight } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import {
  CENTRED,
  type ClipDecisions,
  frameFit,
  type LookFrame,
  MOST_CHANCE,
  type Point,
  point,
  type Reframe,
} from '../../../core';
import type { ClipView, ProjectView } from '../../data/views';
import { Picture } from '../../engine/client/Picture';
import { framingOf, seenOf } from '../../domain/pins';
import { useAsking, useBench, useEngine } from './context';
import { NumberField } from '../../components/NumberField';
import { useHandle } from './handle';
import { Choice } from '../../components/Choice';
import { ReframeFields } from '../../components/ReframeFields';
import { LookRetiming } from './LookRetiming';
import { Retiming } from './Retiming';

/** Properties of the bedrock's panel. */
export interface BedrockProps {
  readonly hero: ClipView;
  readonly project: ProjectView;
  /** Changes decisions about the hero. */
  readonly onHero: (name: string, to: Partial<ClipDecisions>) => void;
  /** Tries a reframe without storing it. */
  readonly onTry: (reframe: Reframe | null) => void;
}

/** The bedrock's panel: the frame the look composes in, and the hero's position in it. */
export function Bedrock(props: BedrockProps) {
  const frame = useBench((s) => s.still.frame),
    on = useBench((s) => s.still.bedrock),
    change = useBench((s) => s.change),
    trimming = useBench((s) => s.trimming !== null);
  const engine = useEngine();
  const [open, setOpen] = useState(false);
  const whole = useRef<HTMLElement>(null);
  useEffect(() => {
    if (open) whole.current?.scrollIntoView({ block: 'nearest' });
  }, [open]);
  return (
    <section aria-label="Bedrock" className="border-b line" ref={whole}>
      <div className="flex items-center gap-1.5 px-3 py-1.5">
        <Picture
          engine={engine}
          view="stratum:"
          label="The bedrock"
          className="w-[54px] h-[31px] object-contain bg-base-300 ml-[18px] flex-none"
        />
        <button
          className="flex-1 min-w-0 flex items-center gap-1 text-left"
          aria-expanded={open}
          onClick={() => setOpen(!open)}
        >
          {open ? (
            <ChevronDown size={13} className="flex-none" aria-hidden="true" />
          ) : (
            <ChevronRight size={13} className="flex-none" aria-hidden="true" />
          )}
          <span className="truncate">
            <span className="font-medium">bedrock</span>{' '}
            <span className="quiet">{props.hero.name}</span>
          </span>
        </button>
        {frame && <span className="num quiet">{frame.shape.join(':')}</span>}
        <input
          type="checkbox"
          className="tick"
          aria-label="Bedrock on"
          disabled={trimming}
          checked={on}
          onChange={(e) =>
            change('bedrock on or off', (now) => ({ ...now, bedrock: e.target.checked }))
          }
        />
      </div>
      {open && (
        <div className="pl-3 pr-2 pb-2 flex flex-col gap-1.5">
          <div inert={trimming}>
            <Frame project={props.project} />
            <Fills />
            <LookRetiming />
          </div>
          <Reframing {...props} />
          <Retiming hero={props.hero} onHero={props.onHero} />
          <ChanceField hero={props.hero} onHero={props.onHero} />
        </div>
      )}
    </section>
  );
}

/** Switch: whether the look may cover more than the clip does. */
function Fills() {
  const fills = useBench((s) => s.still.fills ?? false),
    change = useBench((s) => s.change);
  return (
    <label
      className="flex items-center gap-1"
      title="On: what the look adds may cover the bars beside a clip. Off: it stays within the clip."
    >
      <span className="quiet w-20 flex-none">fills frame</span>
      <input
        type="checkbox"
        className="tick"
        aria-label="Look fills the frame"
        checked={fills}
        onChange={(e) => {
          const on = e.target.checked;
          change(
            on ? 'the look fills the frame' : 'the look stays within the clip',
            ({ fills: _, ...rest }) => (on ? { ...rest, fills: true } : rest),
          );
        }}
      />
    </label>
  );
}

const SHAPES: readonly (readonly [string, readonly [number, number]])[] = [
  ['wide', [12, 5]],
  ['sixteen by nine', [16, 9]],
  ['four by three', [4, 3]],
  ['square', [1, 1]],
  ['portrait', [9, 16]],
];
const nameOf = ([w, h]: readonly [number, number]): string => `${w}:${h}`;

/** Controls of the look's frame. */
function Frame({ project }: { project: ProjectView }) {
  const frame = useBench((s) => s.still.frame),
    change = useBench((s) => s.change),
    end = useBench((s) => s.endGesture);
  const set = (name: string, f: LookFrame | undefined, gesture?: string) => {
    change(name, ({ frame: _, ...rest }) => (f ? { ...rest, frame: f } : rest), gesture);
  };
  const shapes =
    frame && !SHAPES.some(([, s]) => nameOf(s) === nameOf(frame.shape))
      ? [...SHAPES, ['own', frame.shape] as const]
      : SHAPES;
  return (
    <div className="flex flex-col gap-1">
      <label className="flex items-center gap-1">
        <span className="quiet w-20 flex-none">look frame</span>
        <Choice
          className="field flex-1 min-w-0"
          aria-label="Look frame"
          value={frame ? nameOf(frame.shape) : ''}
          onChange={(v) => {
            const chosen = shapes.find(([, s]) => nameOf(s) === v)?.[1];
            set('look frame', chosen && { lies: 'bars', rounded: 0, ...frame, shape: [...chosen] });
          }}
        >
          <option value="">
            the project’s ({project.width}×{project.height})
          </option>
          {shapes.map(([name, s]) => (
            <option key={name} value={nameOf(s)}>
              {name} {nameOf(s)}
            </option>
          ))}
        </Choice>
      </label>
      {frame && (
        <div className="flex items-center gap-1">
          <span className="quiet w-20 flex-none">lies</span>
          <Choice
            className="field min-w-0 flex-1"
            aria-label="How the look frame lies"
            value={frame.lies}
            onChange={(v) => set('how the frame lies', { ...frame, lies: v as LookFrame['lies'] })}
          >
            <option value="bars">in bars</option>
            <option value="fill">filling</option>
          </Choice>
          <span className="quiet">corners</span>
          <NumberField
            label="Corner radius"
            help="In lines: 1080 are the frame’s height"
            className="w-[6.2em] flex-none"
            value={frame.rounded}
            min={0}
            max={540}
            soft={[0, 200]}
            unit="ln"
            reset={0}
            onChange={(v, g) => set('corners', { ...frame, rounded: v }, g)}
            onEnd={end}
          />
        </div>
      )}
      {frame && (
        <label className="flex items-center gap-1.5 ml-[84px]">
          <input
            type="checkbox"
            className="checkbox checkbox-xs"
            checked={frame.clips === 'fill'}
            onChange={(e) => {
              const { clips: _, ...rest } = frame;
              set(
                'how clips lie in the frame',
                e.target.checked ? { ...rest, clips: 'fill' } : rest,
              );
            }}
          />
          wide clips fill it
        </label>
      )}
    </div>
  );
}

/** Control of the hero's chance; it belongs to the clip, whatever its look. */
function ChanceField({ hero, onHero }: Pick<BedrockProps, 'hero' | 'onHero'>) {
  // A gesture may end in the same tick as its last change.
  const latest = useRef<number | null>(null);
  const [tried, setTried] = useState<number | null>(null);
  const set = (number: number) =>
    onHero(`chance of ${hero.name}`, { chance: { ...hero.chance, number } });
  const end = () => {
    if (latest.current !== null) set(latest.current);
    latest.current = null;
    setTried(null);
  };
  return (
    <div className="flex items-center gap-1 border-t line pt-1">
      <span className="quiet w-20 flex-none">chance</span>
      <NumberField
        label={`Chance of ${hero.name}`}
        help="Dust, grain and flutter fall otherwise with another number; clips of one file with the same number have the same"
        className="w-[6.2em] flex-none"
        value={tried ?? hero.chance.number}
        min={0}
        max={MOST_CHANCE}
        soft={[0, 100]}
        reset={0}
        onChange={(v) => setTried((latest.current = Math.round(v)))}
        onEnd={end}
      />
      <button
        className="word quiet"
        aria-label={`another chance for ${hero.name}`}
        title="Rolls another number"
        onClick={() => set(1 + Math.floor(Math.random() * MOST_CHANCE))}
      >
        another
      </button>
    </div>
  );
}

const MIDDLE = point('middle', 'Middle');

/**
 * Controls of the hero's position in the look's frame; it belongs to the clip, whatever its look.
 */
function Reframing({ hero, project, onHero, onTry }: BedrockProps) {
  const look = useAsking();
  const framing = framingOf(hero, seenOf(project, look));
  const now = hero.reframe ?? CENTRED;
  // A gesture may end in the same tick as its last change.
  const tried = useRef<Reframe | null>(null);
  const attempt = (r: Reframe) => {
    tried.current = r;
    onTry(r);
  };
  const end = () => {
    if (!tried.current) return;
    onHero(`reframe ${hero.name}`, { reframe: tried.current });
    tried.current = null;
    onTry(null);
  };
  const { size, middle } = frameFit(framing);
  useHandle(true, {
    label: `Middle of ${hero.name}`,
    parameter: MIDDLE,
    // Position of the clip's middle in the frame.
    value: [0.5 + (0.5 - middle[0]) * size[0], 0.5 + (0.5 - middle[1]) * size[1]],
    put: (v) => {
      const [x, y] = (v as Point).map((at, i) =>
        Math.max(-1, Math.min(2, 0.5 - (at - 0.5) / size[i]!)),
      );
      attempt({ ...now, x: x!, y: y! });
    },
    end,
  });
  return (
    <div className="flex flex-col gap-1 border-t line pt-1" data-reframe={hero.name}>
      <div className="flex items-center gap-1">
        <span className="quiet truncate mr-auto" title="The clip’s own, under every look">
          {hero.name} lies
        </span>
        {(['fit', 'fill'] as const).map((f) => (
          <button
            key={f}
            className={`word ${hero.fit === f ? 'framed' : 'quiet'}`}
            aria-pressed={hero.fit === f}
            onClick={() =>
              onHero(`${hero.name} ${f === 'fit' ? 'fits whole' : 'fills'}`, { fit: f })
            }
          >
            {f === 'fit' ? 'fit whole' : 'fill'}
          </button>
        ))}
        <button
          className="word quiet"
          disabled={!hero.reframe}
          onClick={() => onHero(`centre ${hero.name}`, { reframe: null })}
        >
          centre
        </button>
      </div>
      <ReframeFields name={hero.name} value={now} onChange={attempt} onEnd={end} />
    </div>
  );
}
