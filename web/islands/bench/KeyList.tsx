import { useEffect, useRef } from 'react';
import { KEYS } from './shortcut-list';

export function KeyList({ onClose }: { onClose: () => void }) {
  const dialog = useRef<HTMLDialogElement>(null);
  useEffect(() => dialog.current?.showModal(), []);
  return (
    <dialog
      ref={dialog}
      aria-label="Shortcuts"
      onClose={onClose}
      onClick={(e) => {
        if (e.target === e.currentTarget) onClose();
      }}
      className="m-auto bg-base-100 text-base-content border line rounded p-5 w-[620px] backdrop:bg-black/50"
    >
      <h2 className="font-semibold mb-3">Shortcuts</h2>
      <dl className="grid grid-cols-[110px_1fr_110px_1fr] gap-x-3 gap-y-1">
        {KEYS.map(([id, key, what]) => (
          <div key={id} className="contents">
            <dt className="num self-center">{key}</dt>
            <dd>{what}</dd>
          </div>
        ))}
      </dl>
      <button className="word framed mt-4" onClick={onClose}>
        close
      </button>
    </dialog>
  );
}
