import { type ReactNode, useState } from 'react';
import { type Batch, dropped } from '../data/uploads';

interface Props {
  readonly className: string;
  /** Text that says what a drop does. */
  readonly words: string;
  readonly onDropped: (batches: readonly Batch[]) => void;
  readonly onTrouble: (t: string) => void;
  readonly children: ReactNode;
}

/** An area that accepts dropped files and folders. */
export function DropZone({ className, words, onDropped, onTrouble, children }: Props) {
  const [over, setOver] = useState(false);
  return (
    <div
      className={`${className} relative`}
      onDragOver={(e) => {
        e.preventDefault();
        setOver(true);
      }}
      onDragLeave={(e) => {
        if (e.currentTarget === e.target) setOver(false);
      }}
      onDrop={(e) => {
        e.preventDefault();
        setOver(false);
        dropped(e.dataTransfer.items).then(onDropped, (x: Error) => onTrouble(x.message));
      }}
    >
      {children}
      {over && <Over words={words} />}
    </div>
  );
}

/** The overlay while something is dragged over an area. */
export const Over = ({ words }: { readonly words: string }) => (
  <div className="absolute inset-2 border border-dashed border-primary pointer-events-none grid place-items-center bg-base-300/80 text-base">
    {words}
  </div>
);
