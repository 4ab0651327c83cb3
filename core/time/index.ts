/** Rates, frames and time: integer fractions, one rounding rule (half up). */
export * from './rate';
export * from './slots';
