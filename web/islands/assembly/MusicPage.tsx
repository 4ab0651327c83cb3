import { type PointerEvent, useCallback, useMemo, useRef } from 'react';
import { type CutDocument, cutting, lineAt, SOUND_RATE, type Stretch } from '../../../core';
import { Line, type Shown } from './Line';
import { snapped } from './page-of-music';

/** Pixels within which something snaps. */
const NEAR = 7;
/** Pixels from which on a press is a drag. */
const MOVED = 3;

interface Props extends Shown {
  readonly cut: CutDocument;
  readonly lines: readonly Stretch[];
  readonly beats: readonly number[];
  readonly bars: readonly number[];
  readonly frame: number;
  readonly known: cutting.Known;
  readonly snaps: boolean;
  readonly onFrame: (frame: number) => void;
  readonly onChoose: (keys: ReadonlySet<string>) => void;
  readonly onEdit: (
    name: string,
    change: (cut: CutDocument) => CutDocument,
    gesture?: string,
  ) => void;
  readonly onEnd: () => void;
  /** Clips were dropped on a row. */
  readonly onDrop: (clips: readonly string[], row: string, at: number) => void;
}
/** What is dragged. */
interface Drag {
  readonly kind: 'move' | 'start' | 'end' | 'playhead' | 'sound';
  readonly key: string;
  readonly from: number;
  readonly x: number;
  readonly y: number;
  readonly before: CutDocument;
  readonly gesture: string;
  moved: boolean;
}
let gestures = 0;
/** Where lines and lanes lie on the screen, and how far the page was scrolled then. */
interface Measured {
  readonly lines: readonly DOMRect[];
  readonly lanes: readonly {
    readonly row: string;
    readonly top: number;
    readonly bottom: number;
  }[];
  readonly scrolled: number;
}

/** The cut, line under line. Everything on it is dragged, or moved by keys. */
export function MusicPage(props: Props) {
  const { cut, lines, beats, bars, frame, known, chosen, onFrame, onChoose, onEdit } = props;
  const list = useRef<HTMLOListElement>(null),
    drag = useRef<Drag | null>(null);
  const now = useRef(props);
  now.current = props;

  /** Where lines and lanes lie on the screen, as measured when a drag began. */
  const measured = useRef<Measured>({ lines: [], lanes: [], scrolled: 0 });
  const measure = useCallback(() => {
    const all = (name: string): HTMLElement[] => [
      ...(list.current?.querySelectorAll<HTMLElement>(name) ?? []),
    ];
    measured.current = {
      lines: all('[data-lane=line]').map((e) => e.getBoundingClientRect()),
      lanes: all('[data-testid=lane]').map((e) => {
        const { top, bottom } = e.getBoundingClientRect();
        return { row: e.dataset['lane']!, top, bottom };
      }),
      scrolled: list.current?.scrollTop ?? 0,
    };
  }, []);
  /** The frame under a place of the screen, and the row; of the nearest line where there is none. */
  const under = useCallback((x: number, onScreen: number) => {
    const { lines: boxes, lanes, scrolled } = measured.current;
    const y = onScreen + (list.current?.scrollTop ?? 0) - scrolled;
    const away = (b: DOMRect): number => Math.max(b.top - y, y - b.bottom, 0);
    const index = boxes.reduce((best, b, i) => (away(b) < away(boxes[best]!) ? i : best), 0);
    const box = boxes[index],
      line = now.current.lines[index];
    if (!box || !line) return { frame: 0, perPixel: 1, row: undefined };
    const perPixel = (line.to - line.from) / box.width;
    return {
      frame: Math.floor(line.from + (x - box.left) * perPixel),
      perPixel,
      row: lanes.find((l) => l.top <= y && y < l.bottom)?.row,
    };
  }, []);

  const onPointerDown = (e: PointerEvent<HTMLElement>): void => {
    if (e.button !== 0) return;
    const target = e.target as HTMLElement;
    const place = target.closest<HTMLElement>('[data-place]')?.dataset['place'],
      edge = target.closest<HTMLElement>('[data-edge]')?.dataset['edge'],
      sound = target.closest<HTMLElement>('[data-sound]')?.dataset['sound'];
    if (!target.closest('[data-lane]')) return onChoose(new Set());
    e.preventDefault();
    e.currentTarget.setPointerCapture(e.pointerId);
    measure();
    const key = place ?? sound;
    if (key !== undefined) choose(key, e);
    else onFrame(Math.max(0, under(e.clientX, e.clientY).frame));
    drag.current = {
      kind: place
        ? edge === 'start' || edge === 'end'
          ? edge
          : 'move'
        : sound
          ? 'sound'
          : 'playhead',
      key: key ?? '',
      from: under(e.clientX, e.clientY).frame,
      x: e.clientX,
      y: e.clientY,
      before: cut,
      gesture: `drag ${gestures++}`,
      moved: false,
    };
  };
  /** Shift adds what lies between, Ctrl adds or takes out; what is chosen already stays so. */
  const choose = (key: string, e: PointerEvent): void => {
    if (e.ctrlKey || e.metaKey) {
      const next = new Set(chosen);
      if (!next.delete(key)) next.add(key);
      return onChoose(next);
    }
    const row = cutting.rowOf(cut, key);
    if (e.shiftKey && row) {
      const at = (k: string): number => row.places.findIndex((p) => p.key === k);
      const others = [...chosen].map(at).filter((i) => i >= 0);
      const [a, b] = [Math.min(at(key), ...others), Math.max(at(key), ...others)];
      return onChoose(new Set(row.places.slice(a, b + 1).map((p) => p.key)));
    }
    if (!chosen.has(key)) onChoose(new Set([key]));
  };

  const onPointerMove = (e: PointerEvent): void => {
    const d = drag.current;
    if (!d) return;
    if (!d.moved && Math.hypot(e.clientX - d.x, e.clientY - d.y) < MOVED) return;
    d.moved = true;
    const { frame: at, perPixel, row: over } = under(e.clientX, e.clientY);
    if (d.kind === 'playhead') return onFrame(Math.max(0, at));
    const by = at - d.from;
    const place = cutting.placeOf(d.before, d.key);
    const near = props.snaps && !e.altKey ? NEAR * perPixel : 0;
    const targets =
      near > 0 ? [...cutting.snapsOf(d.before, beats, known.rate, [d.key]), frame] : [];
    if (d.kind === 'sound') {
      const sound = d.before.sounds.find((s) => s.key === d.key);
      const each = (SOUND_RATE * known.rate[1]) / known.rate[0];
      if (sound)
        onEdit(
          'move a sound',
          () =>
            cutting.soundChanged(d.before, d.key, {
              at: Math.max(
                0,
                Math.round(snapped(Math.round(sound.at / each) + by, targets, near) * each),
              ),
            }),
          d.gesture,
        );
      return;
    }
    if (!place) return;
    const end = place.at + place.frames;
    if (d.kind === 'start')
      return onEdit(
        'trim a beginning',
        () =>
          cutting.trimmedStart(
            d.before,
            d.key,
            snapped(place.at + by, targets, near) - place.at,
            known,
          ),
        d.gesture,
      );
    if (d.kind === 'end')
      return onEdit(
        'trim an end',
        () => cutting.trimmedEnd(d.before, d.key, snapped(end + by, targets, near) - end, known),
        d.gesture,
      );
    const keys = chosen.has(d.key) ? [...chosen] : [d.key];
    const [first, last] = [snapped(place.at + by, targets, near), snapped(end + by, targets, near)];
    const step = first !== place.at + by ? first - place.at : last - end;
    const row = over === cutting.rowOf(d.before, d.key)?.key ? undefined : over;
    onEdit('move', () => cutting.moved(d.before, keys, step, row), d.gesture);
  };
  const onPointerUp = (): void => {
    const d = drag.current;
    drag.current = null;
    if (!d) return;
    // A click on one of several chosen leaves that one chosen.
    if (d.moved) props.onEnd();
  };

  const here = lineAt(lines, frame);
  const shown = useMemo(
    (): Shown => ({
      rate: props.rate,
      sounds: props.sounds,
      pictures: props.pictures,
      aspect: props.aspect,
      names: props.names,
      chosen: props.chosen,
    }),
    [props.rate, props.sounds, props.pictures, props.aspect, props.names, props.chosen],
  );
  return (
    <ol
      ref={list}
      aria-label="The page of music"
      className="flex-1 min-w-0 scrolls px-4 pb-6 select-none"
      onPointerDown={onPointerDown}
      onPointerMove={onPointerMove}
      onPointerUp={onPointerUp}
      onPointerCancel={onPointerUp}
      onDragOver={(e) => e.preventDefault()}
      onDrop={(e) => {
        const clips = e.dataTransfer.getData('text/clips');
        if (!clips) return;
        e.preventDefault();
        const lane = (e.target as HTMLElement).closest<HTMLElement>('[data-testid=lane]');
        measure();
        const { frame: at, perPixel } = under(e.clientX, e.clientY);
        const to = cutting.snapsOf(cut, beats, known.rate);
        props.onDrop(
          clips.split(' '),
          lane?.dataset['lane'] ?? cut.rows[0]!.key,
          Math.max(0, props.snaps ? snapped(at, to, NEAR * perPixel) : at),
        );
      }}
    >
      {lines.map((line, i) => (
        <Line
          key={i}
          cut={cut}
          index={i}
          line={line}
          beats={beats}
          bars={bars}
          playhead={i === here ? frame : null}
          {...shown}
        />
      ))}
    </ol>
  );
}
