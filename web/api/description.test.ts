/** The OpenAPI description matches the endpoints. */
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { description, operations } from './description';

const ROOT = 'web/pages/api';
interface Handler {
  readonly name: string;
  readonly body: string | undefined;
}

/** All handlers in the files, as `METHOD path`, with the class that validates the body. */
const handlers = readdirSync(ROOT, { recursive: true, encoding: 'utf8' })
  .filter((file) => file.endsWith('.ts'))
  .flatMap((file): Handler[] => {
    const path = `/api/${file.replace(/(\/?index)?\.ts$/, '')}`
      .replace(/\/$/, '')
      .replace(/\[(\w+)\]/g, '{$1}');
    const parts = readFileSync(join(ROOT, file), 'utf8').split(
      /export const (?=(?:GET|POST|PUT|PATCH|DELETE)\b)/,
    );
    return parts.slice(1).map((code) => ({
      name: `${/^\w+/.exec(code)![0]} ${path}`,
      body: /\bbody\([^,()]*, (\w+)\)/.exec(code)?.[1],
    }));
  });
const byName = (a: Handler, b: Handler): number => (a.name < b.name ? -1 : 1);

interface Document {
  readonly paths: Record<
    string,
    Record<string, { readonly parameters?: readonly { readonly name: string }[] }>
  >;
  readonly components: {
    readonly schemas: Record<string, { readonly properties?: Record<string, unknown> }>;
  };
}
const document = description() as Document;

describe('the description of the endpoints', () => {
  it('has every endpoint, and the class that validates its body', () => {
    expect(handlers.length).toBeGreaterThan(50);
    expect([...operations()].sort(byName)).toEqual(handlers.sort(byName));
  });

  it('refers only to schemas it has', () => {
    const named = [...JSON.stringify(document).matchAll(/#\/components\/schemas\/(\w+)/g)].map(
      (m) => m[1]!,
    );
    expect(named.length).toBeGreaterThan(20);
    expect(named.filter((n) => !(n in document.components.schemas))).toEqual([]);
  });

  it('declares the parts of a path', () => {
    const parts = document.paths['/api/imports/{import}/{file}']!['put']!.parameters!.map(
      (p) => p.name,
    );
    expect(parts).toEqual(['import', 'file']);
  });

  it('tells the bounds that the classes check', () => {
    expect(document.components.schemas['NewProject']!.properties).toMatchObject({
      name: { type: 'string', maxLength: 80 },
      width: { type: 'integer', minimum: 16, maximum: 8192 },
    });
    expect(document.components.schemas['ClipEdits']!.properties!['clips']).toMatchObject({
      type: 'array',
      items: { $ref: '#/components/schemas/OneClipEdit' },
    });
  });
});
