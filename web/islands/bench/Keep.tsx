import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import type { LookDocument } from '../../../core';
import { call } from '../../data/http';
import { useStoreItself } from './context';

/** Duration of the confirmation, ms. */
const SAID_FOR = 3000;

/** A button that keeps a part of the look as a piece, with a brief confirmation. */
export function Keep({
  title,
  of,
}: {
  title: string;
  of: (look: LookDocument) => LookDocument | undefined;
}) {
  const queries = useQueryClient(),
    store = useStoreItself();
  const [said, setSaid] = useState('keep');
  const keep = async () => {
    try {
      await call('POST', '/api/pieces', { document: of(store.getState().look) });
      setSaid('kept');
    } catch (e) {
      setSaid(`not kept: ${(e as Error).message}`);
    }
    await queries.invalidateQueries({ queryKey: ['pieces'] });
    setTimeout(() => setSaid('keep'), SAID_FOR);
  };
  return (
    <button className="word quiet !px-1" title={title} onClick={() => void keep()}>
      {said}
    </button>
  );
}
