/** The windowed sinc that sound between samples is computed with. */
import { sinTurnsd } from '../kernel';

/** Shape of Kaiser's window: side lobes 90 dB below (Kaiser 1974: 0.1102 (90 − 8.7)). */
const BETA = 8.96;

/** The modified Bessel function of the first kind, order 0, by its series. */
function bessel(x: number): number {
  let sum = 1,
    term = 1;
  for (let n = 1; term > sum * 1e-17; n++) {
    term *= (x / (2 * n)) * (x / (2 * n));
    sum += term;
  }
  return sum;
}

/** A sinc under Kaiser's window, x samples off its middle; 0 beyond so many zero crossings. */
export function windowedSinc(x: number, crossings: number): number {
  const u = x / crossings;
  if (u <= -1 || u >= 1) return 0;
  const window = bessel(BETA * Math.sqrt(1 - u * u)) / bessel(BETA);
  return x === 0 ? 1 : (window * sinTurnsd(x / 2)) / (Math.PI * x);
}
