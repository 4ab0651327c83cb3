import { Chart, Filler, LinearScale, LineController, LineElement, PointElement } from 'chart.js';
import { useContext, useEffect, useEffectEvent, useRef } from 'react';
import { type Plot, resolve, type Step, type StepUse, withDefaults } from '../../../../core';
import type { Percentiles } from '../../../../core/clip';
import { ClipContext, useBench } from '../context';

Chart.register(LineController, LineElement, PointElement, LinearScale, Filler);

const COLOURS = {
  all: 'rgb(150 150 150)',
  red: 'rgb(226 84 76)',
  green: 'rgb(80 176 90)',
  blue: 'rgb(88 124 232)',
} as const;
/** Shares of pixels between adjacent percentiles. */
const BETWEEN = [
  ['p1', 'p5', 0.04],
  ['p5', 'p25', 0.2],
  ['p25', 'p50', 0.25],
  ['p50', 'p75', 0.25],
  ['p75', 'p95', 0.2],
  ['p95', 'p99', 0.04],
] as const;

/**
 * The distribution of the clip's tones along the curves' axis: one column between adjacent
 * percentiles.
 */
function tonesOf({ x, y, place }: Plot, tones: Percentiles): { x: number; y: number }[] {
  const columns = BETWEEN.map(([from, to, share]) => {
    const [a, b] = [place(tones[from]), place(tones[to])].map((v) =>
      Math.max(x.from, Math.min(x.to, v)),
    ) as [number, number];
    return { a, b, full: share / Math.max(b - a, 0.1) };
  });
  const most = Math.max(...columns.map((c) => c.full));
  return columns.flatMap(({ a, b, full }) => [
    { x: a, y: 0 },
    { x: a, y: (full / most) * y.to * 0.55 },
    { x: b, y: (full / most) * y.to * 0.55 },
    { x: b, y: 0 },
  ]);
}

/** A step's effect as curves over the clip's tones. */
export function StepPlot({ step, use }: { step: Step; use: StepUse }) {
  const look = useBench((s) => s.look),
    clip = useContext(ClipContext);
  const canvas = useRef<HTMLCanvasElement>(null);
  const chart = useRef<Chart<'line', { x: number; y: number }[]> | null>(null);
  const values = withDefaults(
    step,
    Object.fromEntries(Object.entries(use.parameters).map(([id, s]) => [id, resolve(look, s, {})])),
  );
  const key = JSON.stringify(values);
  const plot = step.plot!(values, clip?.encoding ?? 'srgb');
  const draw = useEffectEvent(() => {
    if (!chart.current) return;
    chart.current.data.datasets = [
      ...plot.lines.map((l, i) => ({
        label: l.name,
        data: l.points.map(([x, y]) => ({ x, y })),
        borderColor: COLOURS[l.of],
        borderWidth: 1.4,
        borderDash: i === plot.lines.length - 1 && plot.lines.length > 1 ? [4, 3] : [],
        pointRadius: 0,
      })),
      ...(clip?.statistics
        ? [
            {
              label: 'this clip',
              data: tonesOf(plot, clip.statistics.tones),
              borderWidth: 0,
              pointRadius: 0,
              fill: true,
              backgroundColor: 'rgb(150 150 150 / 0.22)',
            },
          ]
        : []),
    ];
    chart.current.update('none');
  });
  // The axes belong to the step and never change.
  const begin = useEffectEvent((on: HTMLCanvasElement) => {
    const axis = (a: Plot['x']) => ({
      type: 'linear' as const,
      min: a.from,
      max: a.to,
      title: { display: true, text: a.label, font: { size: 10 }, padding: 0 },
      ticks: { font: { size: 9 }, maxTicksLimit: 9 },
      grid: { color: 'rgb(128 128 128 / 0.18)' },
    });
    return new Chart<'line', { x: number; y: number }[]>(on, {
      type: 'line',
      data: { datasets: [] },
      options: {
        animation: false,
        responsive: true,
        maintainAspectRatio: false,
        events: [],
        scales: { x: axis(plot.x), y: axis(plot.y) },
      },
    });
  });
  useEffect(() => {
    const made = begin(canvas.current!);
    chart.current = made;
    return () => made.destroy();
  }, []);
  // `key` stands for everything that the plot depends on.
  useEffect(() => draw(), [key, clip]);
  return (
    <figure className="mr-2 mb-1">
      <div
        className="h-[150px]"
        role="img"
        aria-label={`${step.label}: ${plot.lines.map((l) => l.name).join(', ')} over ${plot.x.label}`}
      >
        <canvas ref={canvas} />
      </div>
      <figcaption className="quiet text-[11px]">
        dashed: on the screen{clip?.statistics ? '; grey: this clip' : ''}
      </figcaption>
    </figure>
  );
}
