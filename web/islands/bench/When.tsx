/** When something acts, and which moment of its source a layer shows. */
import { edit, type Layer, type LookDocument, type SpanUse, TIMED } from '../../../core';
import { LAYER_TIME, TIME_UNIT_WORDS, TIME_UNITS, type TimeUnit } from '../../../core/time';
import { Choice } from '../../components/Choice';
import { useBench } from './context';
import { ParameterControl } from './controls/ParameterControl';
import { InstantEditor } from './InstantEditor';

interface SpanProps {
  readonly of: { readonly layer?: string; readonly step?: string };
  readonly span: SpanUse | undefined;
  readonly name: string;
}
const LENGTH = (id: 'coming' | 'going', label: string) =>
  ({ kind: 'number', id, label, unit: '', min: 0, max: 10_000, soft: [0, 5], default: 0 }) as const;

/** Chooses between always and a span. */
export function SpanOf({ of, span, name }: SpanProps) {
  const change = useBench((s) => s.change);
  const put = (now: LookDocument, to: SpanUse | undefined) => edit.setSpan(now, of, to);
  if (!span)
    return (
      <button
        className="word quiet self-start"
        title="It acts only between two instants, and outside them costs nothing"
        onClick={() =>
          change(`when ${name} acts`, (now) =>
            put(now, { from: { from: 'start' }, to: { from: 'end' } }),
          )
        }
      >
        + span
      </button>
    );
  return (
    <div className="border-t line mt-1 pt-1" data-span={name}>
      <div className="flex items-center">
        <span className="quiet mr-auto">acts from … to …</span>
        <button
          className="word quiet"
          onClick={() => change(`${name} always`, (now) => put(now, undefined))}
        >
          always
        </button>
      </div>
      <InstantEditor
        label="From"
        at={span.from}
        onInstant={(look, at) => put(look, { ...span, from: at })}
      />
      <InstantEditor
        label="To"
        at={span.to}
        onInstant={(look, at) => put(look, { ...span, to: at })}
      />
      {(['coming', 'going'] as const).map((end) => (
        <ParameterControl
          key={end}
          parameter={LENGTH(end, end === 'coming' ? 'Comes over' : 'Goes over')}
          setting={span[end] ?? { value: 0 }}
          name={`${name} ${end}`}
          reset={0}
          onSetting={(look, s) => put(look, { ...span, [end]: s })}
        />
      ))}
      <label className="flex items-center gap-1 min-h-6">
        <span className="quiet w-[74px]">Counted in</span>
        <Choice
          className="field flex-1"
          value={span.unit ?? 'seconds'}
          onChange={(v) =>
            change('counted in', (now) => put(now, { ...span, unit: v as TimeUnit }))
          }
        >
          {TIME_UNITS.map((u) => (
            <option key={u} value={u}>
              {TIME_UNIT_WORDS[u]}
            </option>
          ))}
        </Choice>
      </label>
    </div>
  );
}

/** Controls of layer time: offset, speed, cadence. */
export function LayerTime({ layer }: { layer: Layer }) {
  const change = useBench((s) => s.change);
  const { time } = layer;
  if (layer.source === 'fill') return null;
  if (!time)
    return (
      <button
        className="word quiet"
        title="Earlier, backwards, at another speed, or held at a lower rate"
        onClick={() =>
          change(`time of ${layer.name}`, (now) => edit.timeLayer(now, layer.key, true))
        }
      >
        + layer time
      </button>
    );
  const cadenced =
    'value' in (time['cadence'] ?? {}) && (time['cadence'] as { value: unknown }).value !== 'none';
  const shown = (id: string): boolean => {
    if (id === 'held' || id === 'jitter') return cadenced;
    // Only the clip itself has moments between its frames.
    return id !== 'between' || layer.source === 'clip';
  };
  return (
    <div className="border-t line mt-1 pt-1" data-time={layer.key}>
      <div className="flex items-center">
        <span className="quiet mr-auto">layer time</span>
        <button
          className="word quiet"
          onClick={() =>
            change(`${layer.name} at the frame itself`, (now) =>
              edit.timeLayer(now, layer.key, false),
            )
          }
        >
          as it is
        </button>
      </div>
      {LAYER_TIME.filter((p) => shown(p.id)).map((p) => (
        <ParameterControl
          key={p.id}
          parameter={p}
          setting={time[p.id] ?? { value: p.default }}
          name={`${layer.name} ${p.label.toLowerCase()}`}
          reset={p.default}
          path={`${layer.key}/${TIMED}/${p.id}`}
          onSetting={(doc, s) => edit.setLayerTime(doc, layer.key, p.id, s)}
        />
      ))}
      <InstantEditor
        label="From"
        at={layer.timeFrom ?? { from: 'start' }}
        onInstant={(look, at) => edit.setTimeFrom(look, layer.key, at)}
      />
    </div>
  );
}
