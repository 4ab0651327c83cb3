import type { AstroGlobal } from 'astro';
import { eq } from 'drizzle-orm';
import { db, tables } from '../../server/database';

/** The project of a page, or a redirect to the list of projects. */
export async function projectOr(
  astro: AstroGlobal,
): Promise<{ id: string; name: string } | Response> {
  const id = astro.params['project'] ?? '';
  const found = /^[0-9a-f-]{36}$/.test(id)
    ? await db().query.projects.findFirst({
        where: eq(tables.projects.id, id),
        columns: { id: true, name: true },
      })
    : undefined;
  return found ?? astro.redirect('/');
}
