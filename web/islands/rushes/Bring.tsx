import { useQueryClient } from '@tanstack/react-query';
import { FolderUp, Upload } from 'lucide-react';
import { type ReactNode, useRef, useState } from 'react';
import { call } from '../../data/http';
import { type Batch, batchesOf, PICTURE, sendBatch } from '../../data/uploads';
import { DropZone } from '../../components/DropZone';
import type { ImportView } from '../../data/views';

interface Sending {
  readonly id: string;
  readonly name: string;
  readonly share: number;
  readonly error: string | null;
  readonly stop: () => void;
}
/** The drop area around Rushes, buttons for choosing files, and running imports. */
export function Bring({
  project,
  imports,
  onTrouble,
  children,
}: {
  project: string;
  imports: readonly ImportView[];
  onTrouble: (t: string) => void;
  children: (choose: ReactNode) => ReactNode;
}) {
  const queries = useQueryClient();
  const [sending, setSending] = useState<readonly Sending[]>([]);
  const files = useRef<HTMLInputElement>(null),
    folder = useRef<HTMLInputElement>(null);
  const change = (id: string, c: Partial<Sending>) =>
    setSending((all) => all.map((s) => (s.id === id ? { ...s, ...c } : s)));
  const put = (id: string) => setSending((all) => all.filter((s) => s.id !== id));

  const send = async (batch: Batch) => {
    const key = crypto.randomUUID(),
      stop = new AbortController();
    setSending((all) => [
      ...all,
      { id: key, name: batch.name, share: 0, error: null, stop: () => stop.abort() },
    ]);
    try {
      await sendBatch(project, batch, (share) => change(key, { share }), stop.signal);
      put(key);
    } catch (e) {
      if (stop.signal.aborted) put(key);
      else change(key, { error: (e as Error).message });
    }
    await queries.invalidateQueries({ queryKey: ['project', project] });
  };
  const bring = (batches: readonly Batch[]) => {
    void (async () => {
      for (const b of batches) await send(b);
    })();
  };
  const choose = (
    <>
      <button className="word framed" onClick={() => files.current?.click()}>
        <Upload size={14} aria-hidden="true" />
        Bring files
      </button>
      <button className="word framed" onClick={() => folder.current?.click()}>
        <FolderUp size={14} aria-hidden="true" />
        Bring a folder of pictures
      </button>
      <input
        ref={files}
        type="file"
        multiple
        hidden
        aria-label="Files"
        onChange={(e) => {
          bring(batchesOf(e.target.files ?? []));
          e.target.value = '';
        }}
      />
      <input
        ref={folder}
        type="file"
        hidden
        aria-label="Folder"
        {...{ webkitdirectory: '' }}
        onChange={(e) => {
          const all = [...(e.target.files ?? [])].filter((f) => PICTURE.test(f.name));
          bring([
            {
              name: e.target.files?.[0]?.webkitRelativePath.split('/')[0] ?? 'pictures',
              files: all,
            },
          ]);
          e.target.value = '';
        }}
      />
    </>
  );
  return (
    <DropZone
      className="flex-1 min-h-0 flex flex-col"
      words="Drop footage or sounds to bring them in"
      onDropped={bring}
      onTrouble={onTrouble}
    >
      {children(choose)}
      {(sending.length > 0 || imports.length > 0) && (
        <ul
          aria-label="Coming in"
          className="max-h-48 scrolls border-t line bg-base-200 px-4 py-2 flex flex-col gap-1.5"
        >
          {sending.map((s) => (
            <Row
              key={s.id}
              name={s.name}
              doing={s.error ? null : 'uploading'}
              share={s.share}
              error={s.error}
              onClose={s.error ? () => put(s.id) : s.stop}
              close={s.error ? 'put away' : 'stop'}
            />
          ))}
          {imports.map((i) => (
            <Row
              key={i.id}
              name={i.name}
              doing={i.state === 'failed' || i.state === 'done' ? null : i.doing}
              share={i.progress}
              error={i.error}
              onClose={() => {
                call('DELETE', `/api/imports/${i.id}`).then(
                  () => queries.invalidateQueries({ queryKey: ['project', project] }),
                  (e: Error) => onTrouble(e.message),
                );
              }}
              close={i.state === 'failed' || i.state === 'done' ? 'put away' : 'stop'}
            />
          ))}
        </ul>
      )}
    </DropZone>
  );
}

function Row({
  name,
  doing,
  share,
  error,
  onClose,
  close,
}: {
  name: string;
  doing: string | null;
  share: number;
  error: string | null;
  onClose: () => void;
  close: string;
}) {
  return (
    <li className="flex items-center gap-3">
      <span className="w-44 truncate font-medium">{name}</span>
      {error ? (
        <span role="alert" className="flex-1">
          {error}
        </span>
      ) : (
        <>
          <progress className="bar flex-1" value={share} aria-label={`${name}: ${doing}`} />
          <span className="num quiet w-[330px] truncate" title={doing ?? undefined}>
            {Math.round(share * 100)} % {doing}
          </span>
        </>
      )}
      <button className="word" onClick={onClose}>
        {close}
      </button>
    </li>
  );
}
