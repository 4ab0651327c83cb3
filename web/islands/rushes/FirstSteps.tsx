import type { ReactNode } from 'react';

/** Thin lines in the page's colour, with details in the accent. */
const Drawing = ({ children }: { readonly children: ReactNode }) => (
  <svg
    viewBox="0 0 160 90"
    className="w-full bg-base-200 border line"
    fill="none"
    stroke="currentColor"
    strokeWidth="1.2"
    aria-hidden="true"
  >
    {children}
  </svg>
);
/** A frame with a horizon and a sun. */
const Frame = ({
  x,
  y,
  w,
  h,
  lit = false,
}: {
  readonly x: number;
  readonly y: number;
  readonly w: number;
  readonly h: number;
  readonly lit?: boolean;
}) => (
  <g className={lit ? 'text-primary' : 'opacity-60'}>
    <rect x={x} y={y} width={w} height={h} />
    <path
      d={`M${x} ${y + h * 0.68} l${w * 0.3} ${-h * 0.18} l${w * 0.25} ${h * 0.12} l${w * 0.45} ${-h * 0.16}`}
    />
    <circle cx={x + w * 0.74} cy={y + h * 0.28} r={h * 0.1} />
  </g>
);
const Arrow = ({ d }: { readonly d: string }) => (
  <path d={d} className="text-primary" strokeWidth="1.6" />
);

const STEPS: readonly {
  readonly title: string;
  readonly words: string;
  readonly picture: ReactNode;
}[] = [
  {
    title: '1 Drop footage here',
    words: 'videos, pictures, or folders of pictures',
    picture: (
      <>
        <Frame x={20} y={12} w={34} h={20} />
        <Frame x={63} y={6} w={34} h={20} />
        <Frame x={106} y={12} w={34} h={20} />
        <Arrow d="M80 34 v18 m-6 -6 l6 6 l6 -6" />
        <path d="M30 56 v22 h100 v-22" />
      </>
    ),
  },
  {
    title: '2 Choose a look on the Shelf',
    words: 'or build one on the Bench, layer by layer',
    picture: (
      <>
        {[0, 1, 2].map((i) => (
          <rect
            key={i}
            x={12}
            y={16 + i * 20}
            width={44}
            height={14}
            className={i === 0 ? 'text-primary' : 'opacity-60'}
          />
        ))}
        <Arrow d="M62 45 h14 m-6 -6 l6 6 l-6 6" />
        <Frame x={84} y={20} w={64} h={48} lit />
      </>
    ),
  },
  {
    title: '3 Hold it over every clip',
    words: 'on the Wall, and render them in the Kiln',
    picture: (
      <>
        {[0, 1, 2, 3, 4, 5].map((i) => (
          <Frame key={i} x={14 + (i % 3) * 46} y={12 + Math.floor(i / 3) * 36} w={40} h={28} lit />
        ))}
      </>
    ),
  },
];

/** The next steps for an empty project. */
export const FirstSteps = () => (
  <ol aria-label="What comes next" className="grid grid-cols-3 gap-6 max-w-[840px] mx-auto py-12">
    {STEPS.map((s) => (
      <li key={s.title}>
        <Drawing>{s.picture}</Drawing>
        <p className="font-medium mt-2">{s.title}</p>
        <p className="quiet">{s.words}</p>
      </li>
    ))}
  </ol>
);
