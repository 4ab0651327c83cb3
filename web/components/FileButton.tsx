import { useRef } from 'react';

interface Props {
  /** The accessible name of the file input. */
  readonly label: string;
  readonly accept: string;
  readonly children: string;
  readonly disabled?: boolean;
  readonly onFile: (f: File) => void;
}

/** A button that opens the browser's file dialog for one file. */
export function FileButton({ label, accept, children, disabled = false, onFile }: Props) {
  const chooser = useRef<HTMLInputElement>(null);
  return (
    <>
      <button className="word framed" disabled={disabled} onClick={() => chooser.current?.click()}>
        {children}
      </button>
      <input
        ref={chooser}
        type="file"
        hidden
        accept={accept}
        aria-label={label}
        onChange={(e) => {
          const f = e.target.files?.[0];
          if (f) onFile(f);
          e.target.value = '';
        }}
      />
    </>
  );
}
