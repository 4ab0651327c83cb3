import {
  CategoryScale,
  Chart,
  LinearScale,
  LineController,
  LineElement,
  PointElement,
  Tooltip,
} from 'chart.js';
import { useEffect, useRef, useState } from 'react';
import { spreadOf, type Traits, TRAITS } from '../../../core';
import type { ClipView } from '../../data/views';
import type { EngineClient } from '../../engine/client/client';
import { STAGES, type Stage, traitView } from './stages';

Chart.register(LineController, LineElement, PointElement, LinearScale, CategoryScale, Tooltip);

const WORDS: Record<keyof Traits, readonly [string, string]> = {
  lightness: ['lightness', 'Mean lightness'],
  contrast: ['contrast', 'From dark to light'],
  warmth: ['warmth', 'From blue to yellow'],
  magenta: ['green to magenta', 'From green to magenta'],
  saturation: ['saturation', 'Mean strength of colour'],
};
type Known = Readonly<Record<string, Traits | undefined>>;

/** Traits of every clip at every stage, from the engine. */
function useTraits(engine: EngineClient, clips: readonly ClipView[]): Known {
  const [known, setKnown] = useState<Known>({});
  useEffect(() => {
    const deaf = clips.flatMap((c) =>
      STAGES.map(([stage]) => {
        const view = traitView(stage, c.id);
        return engine.on(view, (p) => {
          p.bitmap.close();
          setKnown((all) => ({ ...all, [view]: p.traits }));
        });
      }),
    );
    return () => deaf.forEach((f) => f());
  }, [engine, clips]);
  return known;
}

/**
 * The spread of clips as shot, balanced and under the look: one chart per trait, one line per clip.
 */
export function SpreadPanel({
  engine,
  clips,
  onOpen,
}: {
  engine: EngineClient;
  clips: readonly ClipView[];
  onOpen: (clip: string) => void;
}) {
  const known = useTraits(engine, clips);
  const done = clips
    .flatMap((c) => STAGES.map(([stage]) => known[traitView(stage, c.id)]))
    .filter(Boolean).length;
  const whole = clips.length * STAGES.length;
  return (
    <section
      aria-label="Spread"
      data-ready={done === whole}
      className="flex-none h-[236px] border-t line bg-base-200 p-2 grid grid-cols-5 gap-2"
    >
      {TRAITS.map((trait) => (
        <TraitChart
          key={trait}
          trait={trait}
          clips={clips}
          known={known}
          whole={done === whole}
          onOpen={onOpen}
        />
      ))}
    </section>
  );
}

interface ChartProps {
  readonly trait: keyof Traits;
  readonly clips: readonly ClipView[];
  readonly known: Known;
  readonly whole: boolean;
  readonly onOpen: (clip: string) => void;
}

function TraitChart({ trait, clips, known, whole, onOpen }: ChartProps) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const chart = useRef<Chart<'line', (number | null)[], string> | null>(null);
  const open = useRef(onOpen);
  open.current = onOpen;
  const ids = useRef<readonly string[]>([]);
  ids.current = clips.map((c) => c.id);
  const at = (stage: Stage): (number | null)[] =>
    clips.map((c) => known[traitView(stage, c.id)]?.[trait] ?? null);
  const values = STAGES.map(([stage]) => at(stage));
  const spreads = values.map((v) => (whole && v.length > 0 ? spreadOf(v as number[]) : null));
  useEffect(() => {
    chart.current = new Chart<'line', (number | null)[], string>(canvas.current!, {
      type: 'line',
      data: { labels: STAGES.map(([, label]) => label), datasets: [] },
      options: {
        animation: false,
        interaction: { mode: 'nearest', intersect: false },
        responsive: true,
        maintainAspectRatio: false,
        onClick: (_, found) => {
          const clip = found[0] && ids.current[found[0].datasetIndex];
          if (clip) open.current(clip);
        },
        plugins: {
          tooltip: {
            displayColors: false,
            callbacks: { label: (i) => `${i.dataset.label} ${Number(i.parsed.y).toFixed(3)}` },
          },
        },
        scales: {
          y: {
            ticks: { maxTicksLimit: 4, font: { size: 9 } },
            grid: { color: 'rgb(128 128 128 / 0.18)' },
          },
        },
      },
    });
    return () => chart.current?.destroy();
  }, []);
  useEffect(() => {
    const c = chart.current;
    if (!c) return;
    const style = getComputedStyle(canvas.current!);
    const [ink, gold] = [style.color, style.getPropertyValue('--color-primary').trim()];
    c.data.datasets = clips.map((clip, i) => {
      const out = spreads.map((s) => s?.outliers.includes(i) ?? false);
      return {
        label: clip.name,
        data: values.map((v) => v[i]!),
        borderColor: 'rgb(128 128 128 / 0.45)',
        borderWidth: 1,
        pointRadius: out.map((o) => (o ? 4 : 2.5)),
        pointStyle: out.map((o) => (o ? 'rectRot' : 'circle')),
        pointBackgroundColor: out.map((o) => (o ? gold : ink)),
        pointBorderWidth: 0,
      };
    });
    c.update('none');
  });
  const [first, , last] = spreads;
  const change =
    first && last && first.spread > 1e-6
      ? Math.round((last.spread / first.spread - 1) * 100)
      : null;
  return (
    <figure className="min-w-0 flex flex-col" data-trait={trait}>
      <figcaption className="flex gap-2 items-baseline" title={WORDS[trait][1]}>
        <span className="font-medium truncate">{WORDS[trait][0]}</span>
        {change !== null && (
          <span className="num quiet ml-auto">
            {change <= 0 ? '−' : '+'}
            {Math.abs(change)} %
          </span>
        )}
      </figcaption>
      <div className="flex-1 min-h-0 relative">
        <canvas
          ref={canvas}
          role="img"
          aria-label={`${WORDS[trait][1]} of each clip as shot, balanced and under its look`}
          className="absolute inset-0"
        />
      </div>
      <nav
        aria-label={`Clips by ${WORDS[trait][0]}`}
        className="sr-only focus-within:not-sr-only focus-within:absolute focus-within:z-10 focus-within:bg-base-100 focus-within:border line focus-within:p-2 focus-within:flex focus-within:flex-col"
      >
        {clips.map((c, i) => (
          <button
            key={c.id}
            className="text-left focus:underline whitespace-nowrap"
            onClick={() => onOpen(c.id)}
          >{`${c.name} ${values[2]![i]?.toFixed(3) ?? ''}${last?.outliers.includes(i) ? ', far out' : ''}`}</button>
        ))}
      </nav>
      <p
        className="num quiet flex justify-between px-1"
        title="Spread: the standard deviation over all clips"
      >
        {spreads.map((s, i) => (
          <span key={i}>{s ? s.spread.toFixed(3) : '…'}</span>
        ))}
      </p>
    </figure>
  );
}
