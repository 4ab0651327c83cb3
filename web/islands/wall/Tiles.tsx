import { useVirtualizer } from '@tanstack/react-virtual';
import {
  type KeyboardEvent,
  type PointerEvent,
  useEffect,
  useEffectEvent,
  useMemo,
  useRef,
  useState,
} from 'react';
import type { ClipView } from '../../data/views';
import type { EngineClient } from '../../engine/client/client';
import type { Group } from './arrange';
import { neighbour, type Selection, moved, NO_SELECTION, pressed, type Way } from './selection';
import { type Box, GAP, laidOut, PADDING, touched } from './layout';
import { Scrub, type Scrubbed } from './Scrub';
import { Tile } from './Tile';

interface Props {
  readonly engine: EngineClient;
  readonly groups: readonly Group[];
  readonly aspect: number;
  /** Smallest width of a tile, pixels. */
  readonly least: number;
  readonly twofold: boolean;
  readonly choice: Selection;
  readonly onChoice: (c: Selection) => void;
  readonly onOpen: (clip: string) => void;
  /** Called with the visible clips, in order. */
  readonly onSight: (clips: readonly string[]) => void;
  readonly trimsOf: (c: ClipView) => number;
  readonly flagsOf: (c: ClipView) => string | null;
  readonly frameOf: (c: ClipView) => number;
  /** A clip's last frame under its look. */
  readonly lastOf: (c: ClipView) => number;
  readonly onScrub: (s: Scrubbed | null) => void;
}

const WAYS: Readonly<Record<string, Way>> = {
  ArrowLeft: 'left',
  ArrowRight: 'right',
  ArrowUp: 'up',
  ArrowDown: 'down',
  Home: 'home',
  End: 'end',
};
/** A press that moves less than this (pixels) is a click. */
const STILL = 5;

function useWidth(of: React.RefObject<HTMLElement | null>): number {
  const [width, setWidth] = useState(0);
  useEffect(() => {
    const watch = new ResizeObserver(([e]) => setWidth(e!.contentRect.width));
    watch.observe(of.current!);
    return () => watch.disconnect();
  }, [of]);
  return width;
}

/**
 * The tiles of the Wall; only visible ones are rendered. Chosen by click, keys, or a box drawn over
 * them.
 */
export function Tiles({
  engine,
  groups,
  aspect,
  least,
  twofold,
  choice,
  onChoice,
  onOpen,
  onSight,
  trimsOf,
  flagsOf,
  frameOf,
  lastOf,
  onScrub,
}: Props) {
  const area = useRef<HTMLDivElement>(null);
  const width = useWidth(area);
  const layout = useMemo(
    () => laidOut(groups, width, least, twofold ? aspect * 2 : aspect),
    [groups, width, least, aspect, twofold],
  );
  const { rows } = layout;
  const order = useMemo(() => layout.tiles.map((t) => t.id), [layout]);
  const rowsShown = useVirtualizer({
    count: width > 0 ? rows.length : 0,
    getScrollElement: () => area.current,
    estimateSize: (i) => rows[i]!.height,
    paddingStart: PADDING,
    paddingEnd: PADDING,
    overscan: 1,
  });
  useEffect(() => rowsShown.measure(), [layout, rowsShown]);
  const shown = rowsShown.getVirtualItems();
  const sight = shown.flatMap(({ index }) => {
    const row = rows[index];
    return row?.kind === 'tiles' ? row.clips.map((c) => c.id) : [];
  });
  const tell = useEffectEvent(() => onSight(sight)),
    inSight = sight.join();
  useEffect(() => tell(), [inSight]);

  const box = useBox(area, (drawn, from) => {
    const found = touched(layout, drawn);
    onChoice({
      ...from,
      chosen: new Set([...from.chosen, ...found]),
      cursor: found.at(-1) ?? from.cursor,
    });
  });
  const keyed = (e: KeyboardEvent): void => {
    // The keyboard focus, whether chosen or not.
    const here =
      (e.target as HTMLElement).closest<HTMLElement>('[data-id]')?.dataset['id'] ?? choice.cursor;
    const way = WAYS[e.key];
    if (way && !e.ctrlKey && !e.metaKey) {
      e.preventDefault();
      const to = neighbour(layout.tiles, here, way);
      if (to === null) return;
      onChoice(moved({ ...choice, cursor: here }, to, e.shiftKey, order));
      rowsShown.scrollToIndex(layout.tiles.find((t) => t.id === to)!.row);
      requestAnimationFrame(() =>
        area.current?.querySelector<HTMLElement>(`[data-id="${to}"]`)?.focus(),
      );
    } else if (e.key === ' ' && here !== null) {
      e.preventDefault();
      onChoice(pressed(choice, here, { run: false, more: true }, order));
    } else if (e.key === 'Enter' && here !== null) onOpen(here);
  };
  const clicked = (e: React.MouseEvent): void => {
    const id = (e.target as HTMLElement).closest<HTMLElement>('[data-id]')?.dataset['id'];
    if (id && e.detail > 0 && !box.moved())
      onChoice(pressed(choice, id, { run: e.shiftKey, more: e.ctrlKey || e.metaKey }, order));
  };
  const at = choice.cursor ?? order[0];
  return (
    <div
      ref={area}
      role="group"
      aria-label="Tiles"
      className="flex-1 scrolls relative select-none"
      onKeyDown={keyed}
      onClick={clicked}
      onDoubleClick={(e) => {
        const id = (e.target as HTMLElement).closest<HTMLElement>('[data-id]')?.dataset['id'];
        if (id) onOpen(id);
      }}
      onPointerDown={(e) =>
        box.begin(e, e.ctrlKey || e.metaKey || e.shiftKey ? choice : NO_SELECTION)
      }
      onPointerMove={box.draw}
      onPointerUp={box.end}
      onPointerCancel={box.end}
    >
      <ul style={{ height: rowsShown.getTotalSize() }} className="relative">
        {shown.map(({ index, start }) => {
          const row = rows[index];
          if (!row) return null;
          if (row.kind === 'head')
            return (
              <li
                key={`head ${row.name}`}
                className="absolute left-4 right-4 flex gap-2 items-baseline pt-1"
                style={{ top: start, height: row.height }}
              >
                <h2 className="font-semibold">{row.name}</h2>
                <span className="num quiet">{row.count}</span>
              </li>
            );
          return row.clips.map((c, column) => (
            <li
              key={c.id}
              className="absolute group"
              style={{
                top: start,
                left: PADDING + column * (layout.width + GAP),
                width: layout.width,
              }}
            >
              <Tile
                engine={engine}
                clip={c}
                aspect={aspect}
                chosen={choice.chosen.has(c.id)}
                at={c.id === at}
                trims={trimsOf(c)}
                beside={twofold}
                flags={flagsOf(c)}
              />
              <Scrub
                clip={c}
                frame={frameOf(c)}
                last={lastOf(c)}
                below={layout.width / (twofold ? aspect * 2 : aspect)}
                onScrub={onScrub}
              />
            </li>
          ));
        })}
      </ul>
      {box.drawn && (
        <span
          aria-hidden="true"
          className="absolute border border-primary pointer-events-none"
          style={{
            left: Math.min(box.drawn.x0, box.drawn.x1),
            top: Math.min(box.drawn.y0, box.drawn.y1),
            width: Math.abs(box.drawn.x1 - box.drawn.x0),
            height: Math.abs(box.drawn.y1 - box.drawn.y0),
          }}
        />
      )}
    </div>
  );
}

/** A box drawn over a scrolling area, in its pixels. */
function useBox(
  area: React.RefObject<HTMLElement | null>,
  onDraw: (b: Box, from: Selection) => void,
) {
  const [drawn, setDrawn] = useState<Box | null>(null);
  const start = useRef<{ x: number; y: number; from: Selection } | null>(null);
  const wasDrawn = useRef(false);
  const place = (e: PointerEvent) => {
    const r = area.current!.getBoundingClientRect();
    return { x: e.clientX - r.left, y: e.clientY - r.top + area.current!.scrollTop };
  };
  return {
    drawn,
    /** Whether the press that ends here drew a box. */
    moved: () => wasDrawn.current,
    begin: (e: PointerEvent, from: Selection) => {
      // The scroll bar is not part of the area.
      if (e.button !== 0 || place(e).x >= area.current!.clientWidth) return;
      wasDrawn.current = false;
      start.current = { ...place(e), from };
    },
    draw: (e: PointerEvent) => {
      const s = start.current;
      if (!s) return;
      const { x, y } = place(e);
      if (!wasDrawn.current && Math.hypot(x - s.x, y - s.y) < STILL) return;
      if (!wasDrawn.current) area.current!.setPointerCapture(e.pointerId);
      wasDrawn.current = true;
      const box = { x0: s.x, y0: s.y, x1: x, y1: y };
      setDrawn(box);
      onDraw(box, s.from);
    },
    end: () => {
      start.current = null;
      setDrawn(null);
    },
  };
}
