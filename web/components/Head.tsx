import type { ReactNode } from 'react';
import { Help, type HelpedPlace } from './Help';

interface HeadProps {
  readonly title: ReactNode;
  /** The place whose help is offered, if it has no help button of its own. */
  readonly help?: HelpedPlace;
  readonly children?: ReactNode;
}
/** The header of a place. */
export const Head = ({ title, help, children }: HeadProps) => (
  <header className="h-11 flex-none flex items-center gap-2 px-4 border-b line bg-base-200">
    <h1 className="font-semibold mr-auto truncate">{title}</h1>
    {children}
    {help && <Help place={help} />}
  </header>
);

/** A message across a place: what went wrong and what to do. */
export const Notice = ({ text, onClose }: { text: string | null; onClose: () => void }) =>
  text ? (
    <div role="alert" className="flex items-center gap-3 px-4 py-2 border-b line bg-base-100">
      <span className="font-semibold">Not done.</span>
      <span className="flex-1">{text}</span>
      <button className="word framed" onClick={onClose}>
        close
      </button>
    </div>
  ) : null;
