import { useRef, useState } from 'react';
import {
  kindInFrame,
  type Parameter,
  type ParameterValue,
  type Path,
  type PlaceInFrame,
  type PlaceKindId,
} from '../../../core';
import { useHandle } from './handle';

const base = { id: 'pin', label: 'Pin' };
/** The parameters whose handles the kinds of places have. */
const AS: Readonly<Record<PlaceKindId, Parameter>> = {
  point: { ...base, kind: 'point', default: [0.5, 0.5] },
  line: { ...base, kind: 'line', default: [0, 0.5, 1, 0.5] },
  oval: { ...base, kind: 'ellipse', outline: 'ellipse', default: [0.5, 0.5, 100, 100, 0] },
  outline: { ...base, kind: 'path', default: [] },
};

interface Props {
  readonly label: string;
  /** In the look's frame. */
  readonly place: PlaceInFrame;
  /** Names what the place is of: what is dragged is shown until it changes. */
  readonly of: string;
  /** `was`: the outline before, where it has a node more or less. */
  readonly onPlace: (place: PlaceInFrame, was?: Path) => void;
}

/** Fewest nodes of an outline. */
const LEAST = 3;
/**
 * The handles of a line, an oval or an outline that a clip has set: it is kept when let go, or at
 * once where an outline has a node more or less.
 */
export function PinHandle({ label, place, of, onPlace }: Props) {
  const [draft, setDraft] = useState<{ readonly of: string; readonly value: PlaceInFrame }>();
  /** What is dragged and not yet kept. */
  const open = useRef<PlaceInFrame>(undefined);
  const isOutline = kindInFrame(place) === 'outline',
    shown = draft?.of === of ? draft.value : place;
  useHandle(true, {
    label,
    parameter: AS[kindInFrame(place)],
    value: shown as ParameterValue,
    put(v) {
      const next = v as PlaceInFrame,
        was = open.current ?? shown;
      if (isOutline && next.length < LEAST) return;
      setDraft({ of, value: next });
      if (isOutline && next.length !== was.length) {
        open.current = undefined;
        onPlace(next, was as Path);
      } else open.current = next;
    },
    end() {
      if (open.current) onPlace(open.current);
      open.current = undefined;
    },
  });
  return null;
}
