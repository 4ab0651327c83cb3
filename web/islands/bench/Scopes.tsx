import { Chart, Filler, LinearScale, LineController, LineElement, PointElement } from 'chart.js';
import { useEffect, useRef, useState } from 'react';
import { LEVELS, SCOPE_RANGE, VECTOR_SIDE, WAVE_COLUMNS } from '../../../core/measure';
import type { ScopesMade } from '../../engine/protocol';
import { useEngine } from './context';

Chart.register(LineController, LineElement, PointElement, LinearScale, Filler);

const [LOW, HIGH] = SCOPE_RANGE;
/** Colours of the channels in the scopes. */
const CHANNELS = [
  'rgb(222 222 222)',
  'rgb(232 92 84)',
  'rgb(96 196 104)',
  'rgb(96 132 240)',
] as const;
const TRIPLES = [
  [222, 222, 222],
  [232, 92, 84],
  [96, 196, 104],
  [96, 132, 240],
] as const;

/** Brightness of a count: a few pixels are visible, many do not saturate. */
const glowOf = (n: number, full: number): number =>
  n === 0 ? 0 : Math.min(1, 0.18 + Math.log1p(n) / Math.log1p(full));

function drawWaves(canvas: HTMLCanvasElement, m: ScopesMade, which: readonly number[]): void {
  const width = WAVE_COLUMNS * which.length;
  canvas.width = width;
  canvas.height = LEVELS;
  const image = new ImageData(width, LEVELS);
  const full = m.scopes.pixels / WAVE_COLUMNS / 3;
  which.forEach((w, k) => {
    const counts = m.scopes.waves[w]!;
    for (let x = 0; x < WAVE_COLUMNS; x++)
      for (let level = 0; level < LEVELS; level++) {
        const g = glowOf(counts[x * LEVELS + level]!, full);
        if (g > 0)
          image.data.set(
            [...TRIPLES[w]!, g * 255],
            ((LEVELS - 1 - level) * width + k * WAVE_COLUMNS + x) * 4,
          );
      }
  });
  canvas.getContext('2d')!.putImageData(image, 0, 0);
}

function drawVector(canvas: HTMLCanvasElement, m: ScopesMade): void {
  canvas.width = canvas.height = VECTOR_SIDE;
  const image = new ImageData(VECTOR_SIDE, VECTOR_SIDE);
  for (let y = 0; y < VECTOR_SIDE; y++)
    for (let x = 0; x < VECTOR_SIDE; x++) {
      const g = glowOf(m.scopes.vector[y * VECTOR_SIDE + x]!, m.scopes.pixels / 60);
      if (g > 0)
        image.data.set([...TRIPLES[0], g * 255], ((VECTOR_SIDE - 1 - y) * VECTOR_SIDE + x) * 4);
    }
  canvas.getContext('2d')!.putImageData(image, 0, 0);
}

const levels = Array.from({ length: LEVELS }, (_, i) => LOW + ((i + 0.5) / LEVELS) * (HIGH - LOW));

function useHistogram(made: ScopesMade | null) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const chart = useRef<Chart<'line', { x: number; y: number }[]> | null>(null);
  useEffect(() => {
    chart.current = new Chart(canvas.current!, {
      type: 'line',
      data: {
        datasets: CHANNELS.map((colour, i) => ({
          data: [],
          borderColor: colour,
          borderWidth: i === 0 ? 1.2 : 0.9,
          pointRadius: 0,
          fill: i === 0,
          backgroundColor: 'rgb(222 222 222 / 0.12)',
        })),
      },
      options: {
        animation: false,
        responsive: true,
        maintainAspectRatio: false,
        events: [],
        scales: {
          x: { type: 'linear', min: LOW, max: HIGH, display: false },
          y: { min: 0, display: false },
        },
      },
    });
    return () => chart.current?.destroy();
  }, []);
  useEffect(() => {
    if (!made || !chart.current) return;
    made.scopes.histograms.forEach((counts, i) => {
      chart.current!.data.datasets[i]!.data = levels.map((x, k) => ({
        x,
        y: Math.sqrt(counts[k]!),
      }));
    });
    chart.current.update('none');
  }, [made]);
  return canvas;
}

const percent = (share: number): string => `${(share * 100).toFixed(share < 0.0995 ? 1 : 0)} %`;
const signed = (v: number, digits: number): string =>
  `${v >= 0 ? '+' : '−'}${Math.abs(v).toFixed(digits)}`;

interface Props {
  readonly of: 'before' | 'after';
  readonly onOf: (of: 'before' | 'after') => void;
  readonly parade: boolean;
  readonly onParade: (p: boolean) => void;
  readonly region: boolean;
  readonly onWhole: () => void;
  /** Adds an exposure step that restores the clip's lightness. */
  readonly onLevel: (stops: number) => void;
}

/**
 * Waveform, vectorscope and histogram of the hero, and the look's effect on lightness, contrast and
 * noise.
 */
export function Scopes({ of, onOf, parade, onParade, region, onWhole, onLevel }: Props) {
  const engine = useEngine();
  const [made, setMade] = useState<ScopesMade | null>(null);
  const wave = useRef<HTMLCanvasElement>(null),
    vector = useRef<HTMLCanvasElement>(null);
  const histogram = useHistogram(made);
  useEffect(() => engine.onScopes(setMade), [engine]);
  useEffect(() => {
    if (!made) return;
    drawWaves(wave.current!, made, parade ? [1, 2, 3] : [0]);
    drawVector(vector.current!, made);
  }, [made, parade]);
  const line = (v: number) => `${((HIGH - v) / (HIGH - LOW)) * 100}%`;
  const moved =
    made && made.before.lightness > 0.01
      ? Math.log2(Math.max(1e-3, made.after.lightness) / made.before.lightness) * 2.4
      : 0;
  return (
    <aside
      aria-label="Scopes"
      data-ready={made !== null}
      className="w-[216px] flex-none border-l line bg-base-200 scrolls p-2 flex flex-col gap-1.5"
    >
      <div className="flex gap-1">
        <button
          className={`word ${of === 'after' ? 'framed' : ''}`}
          aria-pressed={of === 'after'}
          onClick={() => onOf('after')}
        >
          after
        </button>
        <button
          className={`word ${of === 'before' ? 'framed' : ''}`}
          aria-pressed={of === 'before'}
          onClick={() => onOf('before')}
        >
          before
        </button>
        {region && (
          <button
            className="word quiet ml-auto"
            onClick={onWhole}
            title="Measure the whole picture again"
          >
            whole
          </button>
        )}
      </div>
      <figure>
        <figcaption className="flex items-center quiet">
          Waveform
          <button
            className="word ml-auto !py-0"
            aria-pressed={parade}
            onClick={() => onParade(!parade)}
          >
            {parade ? 'parade' : 'luma'}
          </button>
        </figcaption>
        <div className="relative h-[84px] trace">
          {[0, 0.5, 1].map((v) => (
            <span
              key={v}
              className="absolute left-0 right-0 border-t line"
              style={{ top: line(v) }}
            />
          ))}
          <canvas
            ref={wave}
            role="img"
            aria-label="Waveform"
            className="absolute inset-0 w-full h-full"
          />
        </div>
      </figure>
      <figure>
        <figcaption className="quiet">Vectorscope</figcaption>
        <div className="relative aspect-square w-[144px] mx-auto trace">
          <svg
            viewBox="-0.5 -0.5 1 1"
            className="absolute inset-0 w-full h-full opacity-40"
            aria-hidden="true"
          >
            <path d="M-0.5 0H0.5M0 -0.5V0.5" stroke="currentColor" strokeWidth="0.003" />
            <circle r="0.25" fill="none" stroke="currentColor" strokeWidth="0.003" />
            {/* Where skin of every kind lies: 123° from Cb towards Cr. */}
            <path d="M0 0L-0.245 -0.377" stroke="currentColor" strokeWidth="0.006" />
          </svg>
          <canvas
            ref={vector}
            role="img"
            aria-label="Vectorscope, with the line on which skin lies"
            className="absolute inset-0 w-full h-full"
          />
        </div>
      </figure>
      <figure>
        <figcaption className="quiet">Histogram</figcaption>
        <div className="relative h-[48px] trace">
          <canvas ref={histogram} role="img" aria-label="Histogram" />
        </div>
      </figure>
      {made && (
        <dl className="num grid grid-cols-[1fr_auto] gap-x-2" data-testid="shares">
          <dt className="quiet">crushed</dt>
          <dd>{percent(made.scopes.crushed)}</dd>
          <dt className="quiet">clipped</dt>
          <dd>{percent(made.scopes.clipped)}</dd>
          <dt className="quiet">out of gamut</dt>
          <dd>{percent(made.scopes.outside)}</dd>
          <dt className="quiet pt-1.5">lightness</dt>
          <dd className="pt-1.5">
            {signed((made.after.lightness - made.before.lightness) * 100, 1)} %
          </dd>
          <dt className="quiet">contrast</dt>
          <dd>
            {signed((made.after.contrast / Math.max(1e-4, made.before.contrast) - 1) * 100, 0)} %
          </dd>
          <dt className="quiet">noise</dt>
          <dd>{signed((made.after.noise - made.before.noise) * 100, 2)} %</dd>
        </dl>
      )}
      {made && Math.abs(moved) > 0.05 && (
        <button
          className="word framed justify-center"
          title="Adds an exposure step on top"
          onClick={() => onLevel(Math.max(-4, Math.min(4, -moved)))}
        >
          bring lightness back
        </button>
      )}
    </aside>
  );
}
