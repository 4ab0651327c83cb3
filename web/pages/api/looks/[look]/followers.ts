import { eq } from 'drizzle-orm';
import { db, tables } from '../../../../../server/database';
import { followed } from '../../../../../server/looks/versions';
import { endpoint, id, json } from '../../../../api/answer';
import { clipViews } from '../../../../api/project';
import type { FollowerView } from '../../../../data/views';

/** Clips that will move to the look's next version, in all projects. */
export const GET = endpoint(async (c) => {
  const { clips, projects } = tables;
  const which = followed(id(c, 'look', 'look'));
  const views = await clipViews(which);
  const homes = await db()
    .select({
      clip: clips.id,
      id: projects.id,
      name: projects.name,
      width: projects.width,
      height: projects.height,
    })
    .from(clips)
    .innerJoin(projects, eq(clips.projectId, projects.id))
    .where(which);
  return json(
    views.map((clip): FollowerView => {
      const { clip: _, ...project } = homes.find((h) => h.clip === clip.id)!;
      return { clip, project };
    }),
  );
});
