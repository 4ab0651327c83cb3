import { keepPreviousData, useMutation, useQuery } from '@tanstack/react-query';
import { useEffect, useMemo, useState } from 'react';
import { SHIPPED } from '../../../core';
import { call } from '../../data/http';
import type { LookView, ProjectView, VersionView } from '../../data/views';
import { EngineClient } from '../../engine/client/client';
import {
  type AwayFrom,
  Island,
  useLooks,
  useEvents,
  useProject,
  versionQuery,
} from '../../data/queries';
import { openTabs, thisTab } from '../../data/tab';
import { PickerContext } from '../../components/PickButton';
import { BenchContext } from './context';
import { HeroPicker } from './HeroPicker';
import { draftOf } from './drafts';
import { type BenchStore, benchStore } from './store';
import { Workbench } from './Workbench';
import { trimsOf } from './useTrims';

interface BenchProps {
  readonly project: string;
  /** The requested look, hero and frame. */
  readonly look: string | null;
  readonly clip: string | null;
  readonly frame: string | null;
}

/** The Bench, as an island. */
export const Bench = ({ project, look, clip, frame }: BenchProps) => (
  <Island>
    <Loader
      project={project}
      wanted={look}
      clip={clip}
      at={frame === null ? null : Number(frame)}
    />
  </Island>
);

/**
 * Loads the look to open: the requested one, else the requested clip's, else the one on most clips.
 */
function Loader({
  project,
  wanted,
  clip,
  at,
}: {
  project: string;
  wanted: string | null;
  clip: string | null;
  at: number | null;
}) {
  const { data, error } = useProject(project);
  const looks = useLooks();
  const away = useEvents(project);
  const most =
    data &&
    [...data.clips]
      .map((c) => c.look?.lookId)
      .filter(Boolean)
      .sort(
        (a, b, all = data.clips.map((c) => c.look?.lookId)) =>
          all.filter((x) => x === b).length - all.filter((x) => x === a).length,
      )[0];
  const applied = data?.clips.find((c) => c.id === clip)?.look?.lookId;
  const found = looks.data?.find((l) => l.id === (wanted ?? applied ?? most)) ?? looks.data?.[0];
  // A look that somebody removes stays open, so that what was done to it can be kept.
  const [first, setFirst] = useState<LookView>();
  if (found && !first) setFirst(found);
  const chosen = (first && looks.data?.find((l) => l.id === first.id)) ?? first ?? found;
  const tabs = useQuery({ queryKey: ['tab'], queryFn: tabNow, staleTime: Infinity });
  // A version saved meanwhile changes nothing on the Bench: look, history, hero and zoom stay.
  const version = useQuery({
    ...versionQuery(chosen?.versions[0]?.id ?? ''),
    enabled: chosen !== undefined,
    placeholderData: keepPreviousData,
  });
  // What has been loaded once stays when the server is away.
  const trouble =
    (!data && error) || (!looks.data && looks.error) || (!version.data && version.error);
  if (trouble)
    return (
      <p role="alert" className="p-6">
        {trouble.message}
      </p>
    );
  if (data && data.clips.length === 0)
    return (
      <p className="p-6">
        There is no footage yet:{' '}
        <a className="underline" href={`/p/${project}/rushes`}>
          bring some in
        </a>
        , then build a look here.
      </p>
    );
  if (looks.data?.length === 0 && !first) return <Empty project={project} />;
  if (!data || !looks.data || !version.data || !tabs.data) return <p className="p-6">Opening …</p>;
  return (
    <Opened
      key={version.data.lookId}
      project={data}
      looks={looks.data}
      version={version.data}
      tab={tabs.data}
      clip={clip}
      at={at}
      away={away}
    />
  );
}

interface Tab {
  readonly own: string;
  readonly open: ReadonlySet<string>;
}
const tabNow = async (): Promise<Tab> => ({ own: await thisTab(), open: await openTabs() });

function Empty({ project }: { project: string }) {
  const start = useMutation({
    mutationFn: () =>
      call<{ lookId: string }>('POST', '/api/looks', { document: SHIPPED[0]!.look }),
    onSuccess: ({ lookId }) => {
      location.href = `/p/${project}/bench?look=${lookId}`;
    },
  });
  return (
    <p className="p-6 flex gap-3 items-center">
      There is no look yet.{' '}
      <button className="word main" disabled={start.isPending} onClick={() => start.mutate()}>
        Start from {SHIPPED[0]!.look.name}
      </button>
      {start.error && <span role="alert">{start.error.message}</span>}
      <a className="underline" href={`/p/${project}/shelf`}>
        or make one on the Shelf
      </a>
    </p>
  );
}

interface OpenedProps {
  readonly project: ProjectView;
  readonly looks: readonly LookView[];
  readonly version: VersionView;
  readonly tab: Tab;
  readonly clip: string | null;
  readonly at: number | null;
  readonly away: AwayFrom | null;
}

function Opened({ project, looks, version, tab, clip, at, away }: OpenedProps) {
  const [store] = useState<BenchStore>(() => {
    const draft = draftOf(version.lookId, tab.own, tab.open);
    const opened = {
      lookId: version.lookId,
      number: draft?.basedOn ?? version.number,
      saved: version.document,
    };
    const trims = trimsOf(project, version.lookId);
    return benchStore(opened, draft?.look ?? version.document, trims, tab.own);
  });
  const engine = useMemo(() => new EngineClient('bt709'), []);
  useEffect(() => () => engine.close(), [engine]);
  return (
    <BenchContext.Provider value={{ store, engine }}>
      <PickerContext.Provider value={HeroPicker}>
        <Workbench
          project={project}
          looks={looks}
          store={store}
          engine={engine}
          clip={clip}
          at={at}
          away={away}
        />
      </PickerContext.Provider>
    </BenchContext.Provider>
  );
}
