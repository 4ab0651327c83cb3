/** The looks that ship. They use only what is available to every user. */
import type { LookDocument } from '../document';
import atticReel from './attic-reel.json';
import brine from './brine.json';
import contourLamp from './contour-lamp.json';
import ferrous from './ferrous.json';
import foldedHarbour from './folded-harbour.json';
import heldBreath from './held-breath.json';
import lateGold from './late-gold.json';
import movers from './movers.json';
import projector from './projector.json';
import signalFigure from './signal-figure.json';
import silt from './silt.json';
import softLens from './soft-lens.json';
import spoolBack from './spool-back.json';
import television from './television.json';
import thirdDub from './third-dub.json';
import twoShores from './two-shores.json';
import auraSteps from './aura-steps.json';
import slowBreath from './slow-breath.json';
import ladder from './ladder.json';
import lanternWake from './lantern-wake.json';
import ghostTide from './ghost-tide.json';
import lastBlue from './last-blue.json';
import staticBloom from './static-bloom.json';
import stoneSkin from './stone-skin.json';
import tideLine from './tide-line.json';
import tornPaperRun from './torn-paper-run.json';

/** All shipped looks. */
export const SHIPPED: readonly {
  readonly id: string;
  readonly help: string;
  readonly look: LookDocument;
}[] = [
  {
    id: 'soft-lens',
    help: 'Old uncoated glass: highlights bloom, blacks breathe, the corners fall off.',
    look: softLens as unknown as LookDocument,
  },
  {
    id: 'contour-lamp',
    help: 'A thin clean contour strikes on its cue, lights up tight and wide, grows out of its heart and fades.',
    look: contourLamp as unknown as LookDocument,
  },
  {
    id: 'late-gold',
    help: 'A dull overcast shot becomes evening sun, which has its place in the picture.',
    look: lateGold as unknown as LookDocument,
  },
  {
    id: 'two-shores',
    help: 'A figure before a white ground becomes the window through which other footage shows.',
    look: twoShores as unknown as LookDocument,
  },
  {
    id: 'folded-harbour',
    help: 'The picture folded along lines placed by hand, mirrored on beyond its edges. For a still camera: the lines stay where they lie.',
    look: foldedHarbour as unknown as LookDocument,
  },
  {
    id: 'signal-figure',
    help: 'A figure turns into an unstable projection: out of nothing, tinted, striped, slipping.',
    look: signalFigure as unknown as LookDocument,
  },
  {
    id: 'stone-skin',
    help: 'A person becomes a creature of stone: skin of another hue through all its shades, eyes lit and larger, a painted face.',
    look: stoneSkin as unknown as LookDocument,
  },
  {
    id: 'brine',
    help: 'Cold night, and skin that lives in it.',
    look: brine as unknown as LookDocument,
  },
  { id: 'silt', help: 'Drained, hard, clean blacks.', look: silt as unknown as LookDocument },
  {
    id: 'ferrous',
    help: 'A modern negative and its print: the whole way of light through film.',
    look: ferrous as unknown as LookDocument,
  },
  {
    id: 'attic-reel',
    help: 'Small-gauge home film gone greenish with age: soft lens, poor registration, hand-held wear.',
    look: atticReel as unknown as LookDocument,
  },
  {
    id: 'held-breath',
    help: 'Film from before sound: one colour, closed in, scratched, uneven.',
    look: heldBreath as unknown as LookDocument,
  },
  {
    id: 'third-dub',
    help: 'A copy of a copy of a copy: the whole signal of a cassette, each time again.',
    look: thirdDub as unknown as LookDocument,
  },
  {
    id: 'spool-back',
    help: 'A cassette wound back: bands run, colour slides, browns take over, a sign blinks.',
    look: spoolBack as unknown as LookDocument,
  },
  {
    id: 'aura-steps',
    help: 'What the contour adds alone, growing by a stage at each cue, in the colour that stands out.',
    look: auraSteps as unknown as LookDocument,
  },
  {
    id: 'ladder',
    help: 'Copies of a contour rise out of the subject once over the clip and settle back, one after the other.',
    look: ladder as unknown as LookDocument,
  },
  {
    id: 'lantern-wake',
    help: 'A coloured, glowing wake of the subject’s own past behind it.',
    look: lanternWake as unknown as LookDocument,
  },
  {
    id: 'ghost-tide',
    help: 'Only bright details leave long glowing trails.',
    look: ghostTide as unknown as LookDocument,
  },
  {
    id: 'last-blue',
    help: 'The eyes become the only light and the only colour; the world sinks.',
    look: lastBlue as unknown as LookDocument,
  },
  {
    id: 'torn-paper-run',
    help: 'Each shot shoots into the frame on torn paper, flashes as it arrives and lies until it is covered.',
    look: tornPaperRun as unknown as LookDocument,
  },
  {
    id: 'tide-line',
    help: 'A grade revealed behind a bar of light: before on one side, after on the other.',
    look: tideLine as unknown as LookDocument,
  },
  {
    id: 'static-bloom',
    help: 'Contour light torn off a moving subject, stirred, spread into colours and rayed; what is behind bends where it passes.',
    look: staticBloom as unknown as LookDocument,
  },
  {
    id: 'slow-breath',
    help: 'Time slows at a cue with frames made from motion; a band of light crosses once, warmth and a vignette close in.',
    look: slowBreath as unknown as LookDocument,
  },
];

/** Parts of looks that ship, to be laid on any look. */
const reveal = tideLine as unknown as LookDocument;
/** Shipped pieces, to be added to any look. */
export const SHIPPED_PIECES: readonly LookDocument[] = [
  projector as unknown as LookDocument,
  // For looks of 4:3: it stands in the corners of a frame of that shape.
  television as unknown as LookDocument,
  ...(movers as unknown as LookDocument[]),
  // The look it is added to is what it reveals.
  { ...reveal, layers: reveal.layers.filter((l) => l.key !== 'after') },
];

/** A shipped look by its id or its name, ignoring case. */
export const shippedLook = (name: string): LookDocument | undefined =>
  SHIPPED.find(
    (s) => s.id === name.toLowerCase() || s.look.name.toLowerCase() === name.toLowerCase(),
  )?.look;
