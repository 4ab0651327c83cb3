/** State of the scopes' drawer, and its edit of a look. */
import { useMemo, useState } from 'react';
import { edit, type LookDocument, type Region, resolve, stepOf } from '../../../core';

/** State of the scopes' drawer: whether it is open, and what it measures. */
export function useScopes() {
  const [open, setOpen] = useState(false);
  const [of, setOf] = useState<'before' | 'after'>('after');
  const [region, setRegion] = useState<Region | null>(null);
  const [parade, setParade] = useState(false);
  const wanted = useMemo(() => (open ? { of, region } : undefined), [open, of, region]);
  return { wanted, toggle: () => setOpen((o) => !o), setOf, setRegion, parade, setParade };
}

const LEVEL_LAYER = 'lightness';
/** The look with an exposure step in its top layer, changed by a number of stops. */
export function withExposure(look: LookDocument, stops: number): LookDocument {
  const top = look.layers.at(-1);
  if (top?.key === LEVEL_LAYER && top.steps[0]?.step === 'exposure') {
    const now = resolve(look, top.steps[0].parameters['stops'] ?? { value: 0 }, {}) as number;
    return edit.setConstant(
      look,
      top.key,
      top.steps[0].key,
      'stops',
      Math.round((now + stops) * 1000) / 1000,
    );
  }
  const more = edit.addLayer(
    look,
    edit.newLayer(
      LEVEL_LAYER,
      'below',
      look.layers.map((l) => l.key),
      [edit.newStep(stepOf('exposure')!, [])],
    ),
  );
  const layer = more.layers.at(-1)!;
  return edit.setConstant(
    more,
    layer.key,
    layer.steps[0]!.key,
    'stops',
    Math.round(stops * 1000) / 1000,
  );
}

/** State of the scopes' drawer. */
export type Scopes = ReturnType<typeof useScopes>;
