/** The values steps start with when a person adds them. */
import { expect, it } from 'vitest';
import type { ImageNode } from '../graph';
import { lowerStep, type Step, stepOf, STEPS } from '.';
import { unsuited, type Values, withDefaults } from '../parameters';
import { leafOf, randomPlanes } from '../testing';

const started = STEPS.flatMap((s): [string, Step, Values][] => {
  const values = s.start ?? s.example;
  return values ? [[s.id, s, values]] : [];
});

it('is declared for most steps whose neutral values show nothing', () =>
  expect(started.length).toBeGreaterThan(25));

it.each(started)(
  '%s begins (or is pictured) at values that suit it and that change the picture',
  (_, step, values) => {
    for (const [id, value] of Object.entries(values)) {
      const p = step.parameters.find((q) => q.id === id);
      expect(p, id).toBeDefined();
      expect(unsuited(p!, value), id).toBeUndefined();
    }
    const at = {
      frame: 7,
      seconds: 7 / 25,
      rate: [25, 1] as const,
      seed: 5,
      width: 64,
      height: 36,
    };
    const input = leafOf(randomPlanes(3, 64, 36, 3), 64, 36, step.domain);
    // Without a layer of its own the step bends by what lies below.
    const others = { below: input, clip: input };
    const lowered = (of: Step, image: ImageNode, set: Values): ImageNode =>
      lowerStep(of, image, withDefaults(of, set), 1, { ...at, others });
    // Some act on what others have made.
    const on = (step.exampleOn ?? []).reduce<ImageNode>(
      (image, { step: id, values: set }) => lowered(stepOf(id)!, image, set),
      input,
    );
    expect(lowered(step, on, values).key).not.toBe(on.key);
  },
);
