import { allLayers, edit, MATTE_VIEWS, type MatteView } from '../../../core';
import { copied, copy } from './clipboard';
import type { Mode } from './comparison';
import { FIT, type Zoom } from './Hero';
import { useHeld, useShortcuts } from '../../components/shortcuts';
import type { KeyId } from './shortcut-list';
import type { KeyAct } from './time-lanes';
import type { BenchStore } from './store';

/** Actions of the shortcuts. */
export interface Acts {
  readonly frame: number;
  readonly setFrame: (f: number) => void;
  readonly last: number;
  readonly play: () => void;
  readonly loopFrom: () => void;
  readonly loopTo: () => void;
  readonly bake: () => void;
  readonly fullScreen: () => void;
  readonly setBefore: (b: boolean) => void;
  readonly toggleMode: (m: Mode) => void;
  readonly turnSeam: () => void;
  readonly toggleMarks: () => void;
  readonly keepReference: () => void;
  readonly toggleSheet: () => void;
  readonly toggleTrimming: () => void;
  readonly setCue: () => void;
  readonly nextLacking: () => void;
  readonly toggleScopes: () => void;
  readonly zoom: Zoom;
  readonly setZoom: (z: Zoom) => void;
  readonly save: () => void;
  readonly help: () => void;
  /** Actions on the keys of the chosen mover. */
  readonly onKey: (act: KeyAct) => void;
}

const scaleOf = (z: Zoom): number => (z.scale === 'fit' ? 0.5 : z.scale);

/** Copies, pastes, duplicates, mutes or removes what is chosen in the strata. */
function onChosen(
  store: BenchStore,
  act: 'copy' | 'paste' | 'duplicate' | 'mute' | 'remove',
): void {
  const { look, chosen, change, trimming } = store.getState();
  // The stack belongs to the look, not to the clip that is being trimmed.
  if (trimming !== null && act !== 'copy') return;
  const layer = allLayers(look).find((l) => l.key === chosen?.layer);
  const step = layer?.steps.find((s) => s.key === chosen?.step);
  if (act === 'paste') {
    const c = copied();
    if (c?.kind === 'layer') change('paste layer', edit.addLayer(look, c.layer, layer?.key));
    else if (c?.kind === 'step' && layer)
      change('paste step', edit.addStep(look, layer.key, c.step));
    return;
  }
  if (!layer) return;
  if (act === 'copy') return copy(step ? { kind: 'step', step } : { kind: 'layer', layer });
  if (act === 'duplicate')
    return step
      ? change('duplicate step', edit.addStep(look, layer.key, step))
      : change('duplicate layer', edit.duplicateLayer(look, layer.key));
  if (act === 'remove')
    return step
      ? change('remove step', edit.removeStep(look, layer.key, step.key))
      : change('remove layer', edit.removeLayer(look, layer.key));
  if (step)
    change(
      `step ${step.on ? 'off' : 'on'}`,
      edit.changeStep(look, layer.key, step.key, { on: !step.on }),
    );
  else
    change(
      `${layer.name} ${layer.on ? 'off' : 'on'}`,
      edit.changeLayer(look, layer.key, { on: !layer.on }),
    );
}

function soloChosen(store: BenchStore): void {
  const { solo, chosen, show } = store.getState();
  show({ solo: chosen && solo !== chosen.layer ? chosen.layer : null });
}
/**
 * Cycles through the ways to show the matte of the chosen layer or step, then shows the picture
 * again.
 */
function nextMatteView(store: BenchStore): void {
  const { matteShown, chosen, show } = store.getState();
  const key =
    chosen && (chosen.step === undefined ? chosen.layer : `${chosen.layer}/${chosen.step}`);
  const ways = Object.keys(MATTE_VIEWS) as MatteView[];
  const next = matteShown?.key === key ? ways[ways.indexOf(matteShown!.how) + 1] : ways[0];
  show({ matteShown: key && next ? { key, how: next } : null });
}

/** Handles the Bench's shortcuts, except while text is typed. */
export function useKeys(store: BenchStore, a: Acts): void {
  const acts: Record<Exclude<KeyId, 'b'>, () => void> = {
    space: a.play,
    '[': a.loopFrom,
    ']': a.loopTo,
    a: a.bake,
    'shift+f': a.fullScreen,
    left: () => a.setFrame(a.frame - 1),
    right: () => a.setFrame(a.frame + 1),
    pageup: () => a.setFrame(a.frame - 1),
    pagedown: () => a.setFrame(a.frame + 1),
    'shift+left': () => a.setFrame(a.frame - 10),
    'shift+right': () => a.setFrame(a.frame + 10),
    home: () => a.setFrame(0),
    end: () => a.setFrame(a.last),
    s: () => a.toggleMode('seam'),
    'shift+s': a.turnSeam,
    w: () => a.toggleMode('beside'),
    e: () => a.toggleMode('difference'),
    h: a.toggleMarks,
    r: a.keepReference,
    g: a.toggleSheet,
    t: a.toggleTrimming,
    c: a.setCue,
    j: a.nextLacking,
    o: a.toggleScopes,
    f: () => a.setZoom(FIT),
    '1': () => a.setZoom({ scale: 1, x: 0, y: 0 }),
    plus: () => a.setZoom({ ...a.zoom, scale: Math.min(8, scaleOf(a.zoom) * 1.5) }),
    minus: () =>
      a.setZoom(scaleOf(a.zoom) / 1.5 < 0.5 ? FIT : { ...a.zoom, scale: scaleOf(a.zoom) / 1.5 }),
    'mod+z': () => store.getState().undo(),
    'mod+shift+z': () => store.getState().redo(),
    // Chosen keys are copied before a layer; copied keys are pasted into an open mover.
    'mod+c': () =>
      store.getState().keysChosen.length > 0 ? a.onKey('copy') : onChosen(store, 'copy'),
    'mod+v': () => (copied()?.kind === 'keys' ? a.onKey('paste') : onChosen(store, 'paste')),
    d: () => onChosen(store, 'duplicate'),
    m: () => onChosen(store, 'mute'),
    l: () => soloChosen(store),
    x: () => nextMatteView(store),
    k: () => store.getState().show({ handlesShown: !store.getState().handlesShown }),
    delete: () => onChosen(store, 'remove'),
    y: () => store.getState().show({ timeOpen: !store.getState().timeOpen }),
    i: () => a.onKey('set'),
    p: () => a.onKey('previous'),
    n: () => a.onKey('next'),
    'shift+p': () => a.onKey('earlier'),
    'shift+n': () => a.onKey('later'),
    'shift+i': () => a.onKey('remove'),
    v: a.save,
    '?': a.help,
  };
  useShortcuts((shortcut, e) => {
    const act = (acts as Partial<Record<string, () => void>>)[shortcut];
    const target = e.target;
    if (!act) return false;
    // Sliders keep their arrow keys, buttons their space bar, lists their keys.
    const slides =
      target instanceof HTMLInputElement ||
      (isSlider(target) && target.getAttribute('aria-label') !== 'Frame');
    if (slides && /left|right|home|end|page/.test(shortcut)) return false;
    if (target instanceof HTMLSelectElement && !shortcut.startsWith('mod+')) return false;
    if (shortcut === 'space' && target instanceof HTMLButtonElement) return false;
    if (shortcut === 'mod+c' && String(getSelection() ?? '') !== '') return false;
    act();
    return true;
  });
  useHeld('b', a.setBefore);
}
const isSlider = (e: EventTarget | null): e is HTMLElement =>
  e instanceof HTMLElement && e.getAttribute('role') === 'slider';
