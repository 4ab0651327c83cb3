/** Pieces of looks that are kept for other looks. */
import { asc, eq } from 'drizzle-orm';
import type { LookDocument } from '../../core';
import { db, tables } from '../database';

const { pieces } = tables;

/** A kept piece. */
export interface Piece {
  readonly id: string;
  readonly name: string;
  readonly document: LookDocument;
}

/** All pieces, by name. */
export const pieceList = (): Promise<Piece[]> =>
  db()
    .select({ id: pieces.id, name: pieces.name, document: pieces.document })
    .from(pieces)
    .orderBy(asc(pieces.name), asc(pieces.created))
    .limit(500);

/** Keeps a piece; returns its id. */
export async function keepPiece(document: LookDocument): Promise<string> {
  const [made] = await db()
    .insert(pieces)
    .values({ name: document.name, document })
    .returning({ id: pieces.id });
  return made!.id;
}

/** Removes a piece; false if there is none. */
export async function dropPiece(id: string): Promise<boolean> {
  return (
    (await db().delete(pieces).where(eq(pieces.id, id)).returning({ id: pieces.id })).length > 0
  );
}
