/** Test helpers: views as the endpoints answer them, and an engine that shows nothing. */
import { emptyLook, type LookDocument, type PinAsk } from '../../core';
import type { ClipView, ProjectView } from '../data/views';
import type { EngineClient } from '../engine/client/client';

/** A clip of 80 frames of 960×540. */
export const clipView = (name: string, more: Partial<ClipView> = {}): ClipView =>
  ({
    id: name,
    hash: `hash of ${name}`,
    name,
    role: 'clip',
    frames: 80,
    rate: [25, 1],
    format: { width: 960, height: 540 },
    pixelAspect: 1,
    fit: 'fit',
    reframe: null,
    inOut: null,
    retime: null,
    cuts: [],
    pins: {},
    traces: [],
    statistics: null,
    ...more,
  }) as unknown as ClipView;
/** A project of 1920×1080 with clips and plates. */
export const projectView = (
  clips: readonly ClipView[],
  plates: readonly ClipView[] = [],
): ProjectView =>
  ({
    id: 'project',
    name: 'Made for tests',
    width: 1920,
    height: 1080,
    clips,
    plates,
  }) as unknown as ProjectView;
/** A look that asks for pins and does nothing. */
export const asking = (...pins: readonly PinAsk[]): LookDocument => ({
  ...emptyLook('Asks'),
  pins: [...pins],
});
/** An engine that is always ready and shows nothing. */
export const quietEngine = {
  on: () => () => undefined,
  onAges: () => () => undefined,
  isBusy: () => false,
} as unknown as EngineClient;
