/** All stocks: one data file each (docs/stock.schema.json describes it), and one line here. */
import type { PrintStock, Stock } from '../stock';
import prints from '../prints.json';
import daylight from './daylight.json';
import fadedReversal from './faded-reversal.json';
import monochrome from './monochrome.json';
import night from './night.json';
import reversal from './reversal.json';

/** All stocks, in the order of the menu. */
export const STOCKS = [
  daylight,
  night,
  reversal,
  fadedReversal,
  monochrome,
] as unknown as readonly Stock[];

const byId = new Map(STOCKS.map((s) => [s.id, s]));
/** The stock with this id; the first one if there is none. */
export const stockOf = (id: string): Stock => byId.get(id) ?? STOCKS[0]!;
/** The print stock for a film. */
export const printFor = (stock: Stock): PrintStock => prints[stock.layers] as unknown as PrintStock;
