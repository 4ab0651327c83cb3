import { deflateSync } from 'node:zlib';
import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import { SHIPPED } from '../look';
import { isCard, isPng, readCard, writeCard } from '.';

const { look } = SHIPPED.find((s) => s.id === 'soft-lens')!;
const picture = async (): Promise<Uint8Array> =>
  new Uint8Array(
    await sharp({ create: { width: 40, height: 30, channels: 3, background: '#804020' } })
      .png()
      .toBuffer(),
  );

describe('a look card', () => {
  it('is the picture it was, for any program, and gives the look back', async () => {
    const plain = await picture(),
      card = writeCard(plain, { look, version: 7, thumbnails: [] });
    expect([isCard(plain), isCard(card), isPng(plain), isPng(deflateSync('no picture'))]).toEqual([
      false,
      true,
      true,
      false,
    ]);
    const [was, is] = await Promise.all([plain, card].map((p) => sharp(p).raw().toBuffer()));
    expect(is!.equals(was!)).toBe(true);
    const read = readCard(card, 'card');
    expect(read).toMatchObject({ value: { look, version: 7, thumbnails: [{ name: 'card' }] } });
    // The same look and picture make the same card.
    expect(writeCard(plain, { look, version: 7, thumbnails: [] })).toEqual(card);
  });
  it('says what is wrong with what is none, cut short, or damaged, and never throws', async () => {
    const plain = await picture(),
      card = writeCard(plain, { look, version: 1, thumbnails: [] });
    const said = (b: Uint8Array): string => {
      const read = readCard(b, 'x');
      return 'fault' in read ? read.fault.message : '';
    };
    expect(said(plain)).toContain('carries no look');
    expect(said(new Uint8Array(4))).toContain('carries no look');
    expect(said(card.subarray(0, plain.length))).not.toBe('');
    // Flips one bit somewhere in the payload.
    const at = plain.length - 12 + 40,
      bent = card.slice();
    bent[at] = bent[at]! ^ 1;
    expect(said(bent)).toContain('damaged');
    for (let i = 0; i < card.length; i += 97) said(card.subarray(0, i));
    expect(() => writeCard(card.subarray(0, 30), { look, version: 1, thumbnails: [] })).toThrow(
      'whole PNG',
    );
    // A card that another program saved again has lost its look.
    expect(said(new Uint8Array(await sharp(card).png().toBuffer()))).toContain('carries no look');
  });
});
