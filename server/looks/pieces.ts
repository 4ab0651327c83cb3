/** Kept parts of looks, for use in others. */
import { asc, eq } from 'drizzle-orm';
import type { LookDocument } from '../../core';
import { db, tables } from '../database';

const { pieces } = tables;

export interface Piece {
  readonly id: string;
  readonly name: string;
  readonly document: LookDocument;
}

export const pieceList = (): Promise<Piece[]> =>
  db()
    .select({ id: pieces.id, name: pieces.name, document: pieces.document })
    .from(pieces)
    .orderBy(asc(pieces.name), asc(pieces.created))
    .limit(500);

export async function keepPiece(document: LookDocument): Promise<string> {
  const [made] = await db()
    .insert(pieces)
    .values({ name: document.name, document })
    .returning({ id: pieces.id });
  return made!.id;
}

/** False where there is none. */
export async function dropPiece(id: string): Promise<boolean> {
  return (
    (await db().delete(pieces).where(eq(pieces.id, id)).returning({ id: pieces.id })).length > 0
  );
}
