import { memo } from 'react';
import { type CutDocument, inLine, type Row, type Stretch } from '../../../core';
import type { Rate } from '../../../core/time';
import { Waveform } from '../../components/Waveform';
import type { SoundView } from '../../data/views';
import { overlapsIn, type Part, partsIn, songOf, soundIn, timeWords } from './page-of-music';

/** What lines show beside the cut itself. */
export interface Shown {
  readonly rate: Rate;
  readonly sounds: readonly SoundView[];
  /** Small pictures of clips under their looks, by their ids. */
  readonly pictures: ReadonlyMap<string, string>;
  /** Width ÷ height of the project. */
  readonly aspect: number;
  readonly names: ReadonlyMap<string, string>;
  readonly chosen: ReadonlySet<string>;
}
interface Props extends Shown {
  readonly cut: CutDocument;
  readonly index: number;
  readonly line: Stretch;
  readonly beats: readonly number[];
  readonly bars: readonly number[];
  /** The playhead, if it is in this line. */
  readonly playhead: number | null;
}

const percent = (share: number): string => `${(100 * share).toFixed(4)}%`;

/** A line of the page of music: the song, and under it what stands there. */
export const Line = memo(function Line(props: Props) {
  const { cut, index, line, beats, bars, rate, sounds, playhead, chosen } = props;
  const song = songOf(cut),
    at = (frame: number): string => percent((frame - line.from) / (line.to - line.from));
  return (
    <li
      className="relative pt-5 [contain:layout_paint]"
      data-line={index}
      aria-label={`Line ${index + 1}`}
    >
      <span className="num quiet absolute left-0 top-1">{timeWords(line.from, rate)}</span>
      <div className="relative" data-lane="line">
        <div className="relative h-8 text-primary cursor-text" data-lane="song">
          {song && (
            <SoundStrip
              sound={song}
              of={sounds.find((s) => s.id === song.sound)}
              line={line}
              rate={rate}
              chosen={chosen.has(song.key)}
              isSong
            />
          )}
          <Marks line={line} beats={beats} bars={bars} rate={rate} />
        </div>
        {cut.rows.toReversed().map((row, i) => (
          <Lane key={row.key} row={row} isOwn={i === cut.rows.length - 1} {...props} />
        ))}
        {cut.sounds.some((s) => s !== song && soundIn(s, line, rate)) && (
          <div className="relative h-4 mt-px quiet" data-lane="sounds">
            {cut.sounds.map(
              (s) =>
                s !== song && (
                  <SoundStrip
                    key={s.key}
                    sound={s}
                    of={sounds.find((x) => x.id === s.sound)}
                    line={line}
                    rate={rate}
                    chosen={chosen.has(s.key)}
                  />
                ),
            )}
          </div>
        )}
        {cut.markers.map(
          (m) =>
            inLine(line, m.at, m.at + 1) && (
              <span
                key={m.key}
                className="absolute top-0 bottom-0 border-l border-dashed border-base-content pointer-events-none"
                style={{ left: at(m.at) }}
              >
                <span className="absolute top-0 left-0 px-1 whitespace-nowrap num bg-base-300/70">
                  {m.words}
                </span>
              </span>
            ),
        )}
        {playhead !== null && (
          <span
            data-testid="playhead"
            className="absolute -top-1 -bottom-1 w-[2px] -ml-px bg-base-content pointer-events-none"
            style={{ left: at(playhead) }}
          />
        )}
      </div>
    </li>
  );
});

/** Beats of a line as short strokes, bars as long ones. */
const Marks = memo(function Marks({
  line,
  beats,
  bars,
  rate,
}: Pick<Props, 'line' | 'beats' | 'bars' | 'rate'>) {
  const per = rate[0] / rate[1],
    [from, to] = [line.from / per, line.to / per];
  const within = (all: readonly number[]): number[] => all.filter((b) => b >= from && b < to);
  const stroke = (b: number, up: number): string =>
    `M${(((b - from) / (to - from)) * 1000).toFixed(2)} ${up}V1`;
  const strong = new Set(bars);
  return (
    <svg
      className="absolute inset-0 w-full h-full text-base-content pointer-events-none"
      viewBox="0 0 1000 1"
      preserveAspectRatio="none"
      aria-hidden="true"
    >
      <path
        d={within(beats)
          .map((b) => stroke(b, strong.has(b) ? 0 : 0.72))
          .join('')}
        stroke="currentColor"
        strokeOpacity={0.5}
        vectorEffect="non-scaling-stroke"
        fill="none"
      />
    </svg>
  );
});

/** The part of a sound that lies in a line. */
function SoundStrip({
  sound,
  of,
  line,
  rate,
  chosen,
  isSong = false,
}: {
  readonly sound: CutDocument['sounds'][number];
  readonly of: SoundView | undefined;
  readonly line: Stretch;
  readonly rate: Rate;
  readonly chosen: boolean;
  readonly isSong?: boolean;
}) {
  const part = soundIn(sound, line, rate);
  if (!part) return null;
  return (
    <button
      type="button"
      data-sound={sound.key}
      tabIndex={-1}
      aria-label={`${of?.name ?? 'a sound that has gone'}${isSong ? ', the song' : ''}`}
      aria-pressed={chosen}
      className={`absolute inset-y-0 overflow-hidden text-left ${isSong ? 'pointer-events-none' : 'border line rounded-sm bg-base-200'} ${chosen ? '!border-primary' : ''} ${sound.mute ? 'opacity-40' : ''}`}
      style={{ left: percent(part.left), width: percent(part.width) }}
    >
      {of && (
        <Waveform
          hash={of.hash}
          samples={of.samples}
          from={part.from}
          to={part.to}
          highest={isSong ? 10 ** ((of.truePeak ?? 0) / 20) : 1}
          className="w-full h-full"
        />
      )}
      {!isSong && (
        <span className="absolute left-0 top-0 px-1 num bg-base-200/80">{of?.name ?? 'gone'}</span>
      )}
    </button>
  );
}

/** A row within a line. */
const Lane = memo(function Lane({
  row,
  line,
  isOwn,
  chosen,
  pictures,
  aspect,
  names,
}: Pick<Props, 'line' | 'chosen' | 'pictures' | 'aspect' | 'names'> & {
  readonly row: Row;
  readonly isOwn: boolean;
}) {
  const parts = partsIn(row, line);
  // Rows above take room only where something stands in them.
  if (parts.length === 0 && !isOwn) return null;
  return (
    <div
      className={`relative mt-px [contain:strict] bg-base-300/60 ${isOwn ? 'h-[46px]' : 'h-[26px]'}`}
      data-lane={row.key}
      data-testid="lane"
    >
      {parts.map((part) => (
        <Box
          key={part.place.key}
          place={part.place}
          left={part.left}
          width={part.width}
          begins={part.begins}
          ends={part.ends}
          chosen={chosen.has(part.place.key)}
          picture={pictures.get(part.place.clip)}
          name={names.get(part.place.clip)}
          aspect={aspect}
          height={isOwn ? 46 : 26}
        />
      ))}
      {overlapsIn(row, line).map(({ place, from, to }) => (
        <Overlap
          key={place.key}
          from={from}
          to={to}
          first={line.from}
          end={line.to}
          name={place.enters?.look}
        />
      ))}
    </div>
  );
});

/** A place, or the part of it that lies in a line. */
const Box = memo(function Box({
  place,
  left,
  width,
  begins,
  ends,
  chosen,
  picture,
  name,
  aspect,
  height,
}: Part & {
  readonly chosen: boolean;
  readonly picture: string | undefined;
  readonly name: string | undefined;
  readonly aspect: number;
  readonly height: number;
}) {
  return (
    <div
      role="button"
      tabIndex={-1}
      aria-pressed={chosen}
      aria-label={`${name ?? 'a clip that has gone'}, ${place.frames} frames from ${place.at}`}
      data-place={place.key}
      className={`absolute inset-y-0 overflow-hidden bg-base-200 cursor-grab touch-none ${begins ? 'rounded-l-sm' : ''} ${ends ? 'rounded-r-sm' : ''} ${chosen ? 'outline outline-2 -outline-offset-2 outline-primary' : ''}`}
      style={{
        left: percent(left),
        width: `max(3px, calc(${percent(width)} - ${ends ? 1 : 0}px))`,
        ...(picture && {
          backgroundImage: `url(${picture})`,
          backgroundSize: `${Math.round(height * aspect)}px ${height}px`,
          backgroundRepeat: 'repeat-x',
        }),
      }}
    >
      <span className="absolute left-0 top-0 max-w-full truncate px-1 num bg-base-300/70 text-base-content pointer-events-none">
        {name ?? 'gone'}
      </span>
      {begins && <Edge side="start" />}
      {ends && <Edge side="end" />}
    </div>
  );
});
/** What is dragged to move an end. */
const Edge = ({ side }: { readonly side: 'start' | 'end' }) => (
  <span
    data-edge={side}
    className={`absolute inset-y-0 w-[7px] max-w-[40%] cursor-ew-resize hover:bg-primary/60 ${side === 'start' ? 'left-0' : 'right-0'}`}
  />
);

/** The overlap of a place with what stands before it: a slope from one to the other. */
const Overlap = memo(function Overlap({
  from,
  to,
  first,
  end,
  name,
}: {
  readonly from: number;
  readonly to: number;
  /** The line's first frame, and the one after its last. */
  readonly first: number;
  readonly end: number;
  readonly name: string | undefined;
}) {
  const part = { from: Math.max(from, first), to: Math.min(to, end) };
  const share = (frame: number): number => (100 * (frame - from)) / (to - from);
  return (
    <span
      className="absolute inset-y-0 pointer-events-none"
      title={name}
      style={{
        left: percent((part.from - first) / (end - first)),
        width: percent((part.to - part.from) / (end - first)),
      }}
    >
      <svg
        viewBox={`${share(part.from)} 0 ${share(part.to) - share(part.from)} 100`}
        preserveAspectRatio="none"
        className="absolute inset-0 w-full h-full"
        aria-hidden="true"
      >
        {/* On pictures: light with a dark outline in either theme. */}
        <path d="M0 100L100 0V100Z" fill="#fff" fillOpacity={0.3} />
        <path
          d="M0 100L100 0"
          stroke="#000"
          strokeOpacity={0.55}
          strokeWidth={3}
          vectorEffect="non-scaling-stroke"
        />
        <path
          d="M0 100L100 0"
          stroke="#fff"
          vectorEffect="non-scaling-stroke"
          strokeDasharray={name ? undefined : '3 3'}
        />
      </svg>
    </span>
  );
});
