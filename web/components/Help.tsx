/** Help: what can be done at a place, in the words of its controls. */
import { type ReactNode, useEffect, useRef, useState } from 'react';
import { useShortcuts } from './shortcuts';

/** A control's label, and what it does. */
type Entry = readonly [control: string, does: string];
/** Places that have help. */
export type HelpedPlace = 'rushes' | 'bench' | 'wall' | 'assembly' | 'kiln' | 'shelf';

/** Help texts by place. */
export const HELP: Readonly<Record<HelpedPlace, readonly Entry[]>> = {
  rushes: [
    [
      'Bring files',
      'brings footage and sounds into the project; they can be dropped anywhere, too',
    ],
    ['Bring a folder of pictures', 'brings numbered pictures as one clip'],
    ['sorted', 'puts clips in another order'],
    ['shown', 'leaves only clips of which something was guessed, or whose file is unusual'],
    ['Find a clip by its name', 'leaves clips whose name has what is typed'],
    ['Colour encoding', 'says how the colours of the chosen clips are coded'],
    ['Used as', 'a clip is delivered; a plate is material for looks'],
    ['In, frame', 'the first frame of the file that the clip shows; Out, frame, the last'],
    ['Once more', 'makes another clip of the same stretch, for a look of its own'],
    ['Sounds', 'their waveforms: a click or the arrows go there, the space bar plays'],
    ['counted', 'takes every second beat that was found, each, or one more between each two'],
    ['a bar begins here', 'the beat nearest to where the sound is heard begins a bar (B)'],
    ['Remove …', 'takes clips out of the project; the footage stays where it was'],
  ],
  bench: [
    [
      '+ layer',
      'lays a layer on the clip: the clip again, a colour, what is below, other footage, another look',
    ],
    ['Width of the strata', 'makes their column wider'],
    ['Rows of companions', 'how many other clips show the look: none, one row of them, two'],
    ['asks for', 'what the look has to know about each clip: a cue, a point, a matte'],
    ['the look', 'dials set the look, for every clip that wears it'],
    ['this clip', 'dials set this clip alone'],
    ['compare', 'holds the hero against the clip, a version, a kept picture'],
    ['hold: before', 'shows what was before for as long as it is held'],
    ['scopes', 'the picture’s tones and colours as curves'],
    ['trials', 'the hero over the range of one or two dials'],
    ['bake', 'computes frames ahead, so that they play'],
    ['Lanes of the time shelf', 'opens what moves, frame by frame'],
    ['save version', 'keeps the look as it stands; clips that follow it go on to it'],
  ],
  wall: [
    ['choose all', 'chooses every clip; a click chooses one, Shift up to it, Ctrl one more'],
    ['Assign a look to the chosen clips', 'puts a look on them'],
    ['as shot', 'every clip as it was shot'],
    ['balanced', 'every clip as it is balanced'],
    ['look', 'every clip under its look'],
    ['side by side', 'each under its look, the balanced clip beside it'],
    ['spread', 'how far the clips lie apart, before and after'],
    ['balance', 'proposes a balance for the chosen clips, or matches them to one'],
    ['dials', 'turns dials on all chosen clips at once, for the look or for them alone'],
    ['pins', 'sets clip after clip what looks ask for'],
    ['flags', 'what inspection found, and accepting it'],
  ],
  assembly: [
    ['The page of music', 'the song line under line, and under it the clips; all of it is dragged'],
    ['Clips and sounds', 'drag clips onto the page, or choose some and place them'],
    ['lay in at the playhead', 'puts a sound into the cut; the first one is the song'],
    ['Play', 'plays from the playhead on, with the sound (the space bar)'],
    ['again', 'plays what is chosen again and again'],
    ['bake', 'computes all frames ahead, so that they play'],
    ['split', 'cuts the place under the playhead in two (S); join puts it together (J)'],
    ['to the beat', 'lays the chosen places end to end, by whole beats (B)'],
    ['in step', 'lays chosen takes in step with the song, by their own sound (Y)'],
    ['mix', 'the chosen places come in by a mix (T); others are chosen on the left'],
    ['row above', 'a row above all others, for an insert or lettering (U)'],
    ['snap', 'what is dragged snaps to beats, cuts and markers; not while Alt is held'],
    ['How much stands on a line', 'bars or seconds of the song on each line'],
    ['keep a version', 'keeps the cut as it stands, under a name'],
    ['render …', 'goes to the Kiln, where the whole cut becomes one file'],
  ],
  kiln: [
    ['all', 'chooses every clip for the next delivery'],
    ['none', 'chooses none'],
    ['Width', 'the size that is delivered'],
  ],
  shelf: [
    ['Search the Shelf', 'leaves looks and pieces with what is typed in their name'],
    ['New look', 'begins an empty look and opens it on the Bench'],
    ['Import look', 'brings a look from a file'],
    ['The clip that looks are seen on', 'shows all looks on another clip'],
    ['open on the Bench', 'opens the look, to be changed'],
    ['duplicate', 'makes a look of its own from it'],
    ['export', 'writes the look to a file'],
    ['bake to .cube', 'writes its colour as a cube, and says what a cube cannot hold'],
  ],
};

/** A dialog with the help of a place, and further content. */
export function HelpList({
  place,
  label,
  onClose,
  children,
}: {
  place: HelpedPlace;
  label: string;
  onClose: () => void;
  children?: ReactNode;
}) {
  const dialog = useRef<HTMLDialogElement>(null);
  useEffect(() => dialog.current?.showModal(), []);
  return (
    <dialog
      ref={dialog}
      aria-label={label}
      onClose={onClose}
      onClick={(e) => {
        if (e.target === e.currentTarget) onClose();
      }}
      className="m-auto bg-base-100 text-base-content border line rounded p-5 w-[680px] max-h-[88vh] scrolls backdrop:bg-black/50"
    >
      <header className="flex items-baseline mb-3">
        <h2 className="font-semibold mr-auto">What can be done here</h2>
        <button className="word" onClick={onClose}>
          close <span className="num quiet">Esc</span>
        </button>
      </header>
      <dl className="grid grid-cols-[210px_1fr] gap-x-4 gap-y-1" data-help={place}>
        {HELP[place].map(([control, does]) => (
          <div key={control} className="contents">
            <dt className="font-medium">{control}</dt>
            <dd className="quiet">{does}</dd>
          </div>
        ))}
      </dl>
      {children}
    </dialog>
  );
}

/** A button that opens the help of a place; `?` does the same. */
export function Help({ place }: { place: HelpedPlace }) {
  const [open, setOpen] = useState(false);
  useShortcuts((shortcut) => {
    if (shortcut !== '?') return false;
    setOpen((o) => !o);
    return true;
  });
  return (
    <>
      <button
        className="word"
        aria-label="Help"
        title="What can be done here (?)"
        onClick={() => setOpen(true)}
      >
        ?
      </button>
      {open && <HelpList place={place} label="Help" onClose={() => setOpen(false)} />}
    </>
  );
}
