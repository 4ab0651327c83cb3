import { describe, expect, it } from 'vitest';
import { edit, emptyLook, LOOK_SCHEMA, readLook, SHIPPED, upToDate } from '.';

const withGrain = (parameters: object) => {
  const layer = edit.newLayer('a', 'below', []);
  return {
    ...emptyLook('Old'),
    schema: 1,
    layers: [
      {
        ...layer,
        steps: [{ key: 'grain', step: 'grain', on: true, mix: { value: 100 }, parameters }],
      },
    ],
  };
};

describe('a look of schema 1', () => {
  it('opens: its grain is about as large and strong, by a stock at a gauge', () => {
    const read = readLook(
      withGrain({ amount: { value: 24 }, size: { value: 4 }, colour: { value: 35 } }),
    );
    if (!('look' in read)) throw new Error(JSON.stringify(read.faults));
    expect(read.look.schema).toBe(LOOK_SCHEMA);
    expect(read.look.layers[0]!.steps[0]!.parameters).toEqual({
      amount: { value: 624 },
      colour: { value: 35 },
      gauge: { value: 'eight-large' },
      clouds: { value: 162 },
    });
  });
  it('keeps the dial that drives its grain', () => {
    const read = readLook({
      ...withGrain({ amount: { dial: 'strength', from: 0, to: 10 }, size: { value: 4 } }),
    });
    expect('look' in read && read.look.layers[0]!.steps[0]!.parameters['amount']).toEqual({
      dial: 'strength',
      from: 0,
      to: 260,
    });
  });
  it('without grain only counts as one of schema 2', () => {
    const { look } = SHIPPED[1]!;
    expect(upToDate({ ...look, schema: 1 })).toEqual(look);
  });
  it('finds grain in groups', () => {
    const old = {
      ...withGrain({}),
      groups: [
        {
          key: 'g',
          name: 'g',
          layers: withGrain({ size: { value: 2 } }).layers.map((l) => ({ ...l, key: 'inner' })),
        },
      ],
    };
    const read = readLook(old);
    expect(
      'look' in read && read.look.groups![0]!.layers[0]!.steps[0]!.parameters['clouds'],
    ).toEqual({ value: 81 });
  });
});

describe('a look of schema 3', () => {
  it('opens in the words of schema 4, with whatever moves or follows what was renamed', () => {
    const layer = {
      ...edit.newLayer('a', 'below', []),
      placement: { anchor: { x: 0.25, y: 0.5 } },
      steps: [
        { key: 'fill', step: 'solid', on: true, mix: { value: 100 }, parameters: {} },
        {
          key: 'wb',
          step: 'white-balance',
          on: true,
          mix: { value: 100 },
          parameters: { tint: { value: 7 }, temperature: { value: 3, follows: 'a/wb/tint' } },
        },
      ],
    };
    const old = {
      ...emptyLook('Old'),
      schema: 3,
      layers: [layer],
      // A text that only looks like a path stays.
      name: 'a/wb/tint',
      movers: [{ key: 'm', path: 'a/wb/tint' }],
    };
    const now = upToDate(old) as unknown as typeof old;
    expect(now.schema).toBe(LOOK_SCHEMA);
    expect(now.name).toBe('a/wb/tint');
    const [made] = now.layers;
    expect(made!.placement).toEqual({ 'turns-about': { x: 0.25, y: 0.5 } });
    expect(made!.steps[0]!.step).toBe('plain-colour');
    expect(made!.steps[1]!.parameters).toEqual({
      'green-magenta': { value: 7 },
      temperature: { value: 3, follows: 'a/wb/green-magenta' },
    });
    expect(now.movers[0]!.path).toBe('a/wb/green-magenta');
    expect(upToDate(now)).toEqual(now);
  });
});

it('leaves alone what is no look, and looks of schemas that are yet to come', () => {
  for (const v of [
    null,
    3,
    'a',
    [],
    {},
    { schema: 'x' },
    { schema: 0.5 },
    { schema: 7, layers: 3 },
    { schema: 1, layers: [[1], null] },
  ])
    expect(() => upToDate(v)).not.toThrow();
  expect(upToDate({ schema: 7 })).toEqual({ schema: 7 });
});
