import { HelpList } from '../../components/Help';
import { KEYS } from './shortcut-list';

/** The Bench's help and shortcuts. */
export const KeyList = ({ onClose }: { onClose: () => void }) => (
  <HelpList place="bench" label="Shortcuts" onClose={onClose}>
    <h2 className="font-semibold mt-5 mb-3">Shortcuts</h2>
    <dl className="grid grid-cols-[88px_1fr_88px_1fr] items-baseline gap-x-3 gap-y-1">
      {KEYS.map(([id, key, what]) => (
        <div key={id} className="contents">
          <dt className="num">{key}</dt>
          <dd>{what}</dd>
        </div>
      ))}
    </dl>
  </HelpList>
);
